"""Numbers and moments are written as a place writes them, and read back whatever the place."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from babel.numbers import parse_decimal
from hypothesis import given
from hypothesis import strategies as st

import hidden_frame
from hidden_frame.model.number_format import (
    decimal,
    grouped,
    locale_now,
    locale_of,
    number_of,
    written_for,
)
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.units import UNITS, format_length, parse_length, short_length

PLACES = ["en_GB", "en_IN", "de_DE", "de_CH", "fr_FR", "sv_SE", "pl_PL", "pt_BR", "fi_FI"]
SOURCE = Path(hidden_frame.__file__).parent


@given(st.sampled_from(PLACES), st.floats(-40_000, 40_000), st.sampled_from(UNITS))
def test_a_length_is_read_as_it_was_written_in_every_place(place, points, unit):
    with written_for(place):
        written = format_length(points, unit)
        assert parse_length(written, unit) == pytest.approx(points, abs=0.01)
        assert parse_length(short_length(points, unit), unit) == pytest.approx(points, abs=0.4)
    assert parse_length(written, unit) == pytest.approx(points, abs=0.01)  # as typed elsewhere


@given(st.sampled_from(PLACES), st.integers(-(10**9), 10**9), st.integers(0, 4))
def test_babel_reads_what_is_written(place, number, places):
    with written_for(place):
        assert int(parse_decimal(grouped(number), locale=place)) == number
        written = decimal(number / 10**places, places)
        assert float(parse_decimal(written, locale=place)) == pytest.approx(number / 10**places)
        assert number_of(written) == pytest.approx(number / 10**places)


@given(st.floats(-1e6, 1e6), st.integers(0, 4))
def test_nothing_is_written_as_less_than_nothing(value, places):
    assert not re.fullmatch(r"-0[.,]?0*", decimal(value, places))
    assert not re.fullmatch(r"-0[.,]?0*", decimal(value, places, trimmed=False))


@pytest.mark.parametrize(
    "environment, place",
    [
        ({}, "en_GB"),
        ({"LANG": "C"}, "en_GB"),
        ({"LANG": "en_US.UTF-8"}, "en_US"),
        ({"LANG": "en_ZA.UTF-8"}, "en_ZA"),
        ({"LANG": "de_DE.UTF-8@euro"}, "de_DE"),
        ({"LANG": "en_GB.UTF-8", "LC_NUMERIC": "sv_SE.UTF-8"}, "sv_SE"),
        ({"LC_ALL": "C", "LC_NUMERIC": "sv_SE.UTF-8"}, "en_GB"),
        ({"LC_ALL": "", "LANG": "fr"}, "fr"),
        ({"LANG": "neither a place"}, "en_GB"),
        ({"LANG": "xx_YY"}, "en_GB"),
    ],
)
def test_the_place_is_that_of_the_environment(environment, place):
    """POSIX.1-2017, 8.2 Internationalization Variables."""
    assert locale_of(environment) == place


def test_sentences_hold_numbers_of_the_place():
    with written_for("de_DE"):
        assert pages_counted(1234) == "1.234 pages"
    assert pages_counted(1234) == "1,234 pages"
    assert locale_now() == "en_GB"


def test_all_that_is_told_writes_its_numbers_by_the_place():
    """No sentence groups its thousands or writes decimals by itself."""
    by_itself = re.compile(r"\{[^{}\"']*:(,|[.,]\d?f|g)\}|strftime|:%[AdYB]")
    rooms = ("desktop", "interact", "checks", "edit", "model", "settle")
    found = [
        f"{path.relative_to(SOURCE)}:{number} {line.strip()}"
        for room in rooms
        for path in sorted((SOURCE / room).rglob("*.py"))
        if path.name != "number_format.py"
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if by_itself.search(line)
    ]
    assert found == []
