"""The table of kinds of findings: complete, and all that a new check needs."""

import ast
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

import hidden_frame.checks
from hidden_frame.checks import kinds
from hidden_frame.checks.content import content_findings, counted, printed
from hidden_frame.checks.finding import Finding, Way
from hidden_frame.checks.findings import findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item, remove_items
from hidden_frame.model.items import Shape
from hidden_frame.model.paint import Fill
from hidden_frame.resources import GUIDE

CHECKS = Path(hidden_frame.checks.__file__).parent


def _named():
    """Every kind that a check names, read from the source."""
    for path in CHECKS.glob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if not isinstance(node, ast.Call) or not node.args:
                continue
            called = (
                node.func.attr
                if isinstance(node.func, ast.Attribute)
                else (node.func.id if isinstance(node.func, ast.Name) else "")
            )
            first = node.args[0]
            if called in ("Finding", "fault") and isinstance(first, ast.Constant):
                yield first.value


def test_every_kind_that_a_check_names_has_a_row_once():
    rows = [kind.id for kind in kinds.KINDS]
    assert len(rows) == len(set(rows))
    named = set(_named())
    assert len(named) > 25 and named <= set(rows)


def test_every_row_has_what_finds_it_and_a_page_of_the_guide():
    titles = {p.read_text("utf-8").splitlines()[0].removeprefix("# ") for p in GUIDE.glob("*.md")}
    for kind in kinds.KINDS:
        assert [kind.order, kind.text, kind.item].count(None) == 2, kind.id
        assert kind.guide in titles, kind.id
        assert bool(kind.one) == bool(kind.many), kind.id


def _wide(look):
    if look.placed.drawing.width > 90:
        yield look.fault("too wide for the shelf", "is wider than 90 pt")


def _narrower(publication, fault, at, side):
    return (Way("Away with it", lambda p: remove_items(p, at, [fault.item_id])),)


def _many(publication):
    if len(publication.sections) == 1:
        yield Finding("one section", "There is one section.", ways=())


def test_a_new_check_is_a_function_and_a_row(monkeypatch, small):
    monkeypatch.setattr(kinds, "KINDS", (
        *kinds.KINDS,
        kinds.Kind("too wide for the shelf", "Number the pages", item=_wide, ways=_narrower,
                   one="wide thing", many="wide things"),
        kinds.Kind("one section", order=_many),
    ))  # fmt: skip
    monkeypatch.setattr("hidden_frame.checks.content.KINDS", kinds.KINDS)
    page, publication = small.sections[0].pages[0].id, small
    for x, width in ((100, 100.0), (220, 80.0)):
        shape = Shape(id="", x=x, y=100, width=width, height=30, fill=Fill("ink"))
        publication, _ = add_item(publication, page, shape)
    first, second = (item.id for item in publication.sections[0].pages[0].items)
    found = content_findings(Composer().compose(publication), {})
    wide = [f for f in found if f.kind == "too wide for the shelf"]
    assert [f.item_id for f in wide] == [first]
    assert "is wider than 90 pt" in wide[0].sentence and wide[0].offer == "Away with it"
    assert counted(wide * 2) == "2 wide things" and printed("too wide for the shelf")
    mended = wide[0].fix(publication)
    assert [i.id for i in mended.sections[0].pages[0].items] == [second]
    assert "There is one section." in [f.sentence for f in findings(publication)]


@given(st.lists(st.sampled_from([k.id for k in kinds.KINDS]), max_size=30))
def test_what_is_counted_is_what_prints_otherwise_than_meant(ids):
    told = counted(Finding(kind_id, "") for kind_id in ids)
    numbers = [int(part.split()[0]) for part in told.split(", ") if part]
    assert sum(numbers) == sum(printed(kind_id) for kind_id in ids)
    assert not any(kinds.kind_of(i).guide == "Book typography" for i in ids if printed(i))
