"""Sentences for one and several are whole, and made in one place."""

import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import hidden_frame
from hidden_frame.model.plural import pages_counted, plural

SOURCE = Path(hidden_frame.__file__).parent
GLUED = re.compile(
    r"""['"](?:s|es)?['"] \* \(|['"]['"] if \w+ else ['"]e?s['"]|['"]e?s['"] if \w+ else ['"]['"]"""
)


def test_no_plural_is_glued_from_pieces():
    found = [
        f"{path.relative_to(SOURCE)}:{number}"
        for path in SOURCE.rglob("*.py")
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if GLUED.search(line)
    ]
    assert found == []


@given(st.integers(0, 10**9), st.text(max_size=20))
def test_one_is_told_as_one_and_names_are_kept_as_they_are(count, name):
    told = plural(count, "{n} page of {name}", "{n} pages of {name}", name=name)
    number, rest = told.split(" ", 1)
    assert int(number.replace(",", "")) == count
    assert rest == (f"page of {name}" if count == 1 else f"pages of {name}")


@pytest.mark.parametrize("count, told", [(0, "0 pages"), (1, "1 page"), (1234, "1,234 pages")])
def test_pages(count, told):
    assert pages_counted(count) == told
