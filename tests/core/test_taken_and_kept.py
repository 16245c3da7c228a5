"""What the history takes can be saved and opened: a change is checked as all of it is."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.history import History, record
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import Override, Shape
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import MasterRule, Publication
from hidden_frame.storage.format import from_bytes


@cache
def almanac_alone() -> Publication:
    return almanac()[0]


HUGE = Margins(top=900.0, bottom=900.0, inside=900.0, outside=900.0)


def of_master(number: int, **changes: object) -> Callable[[Publication], Publication]:
    def change(publication: Publication) -> Publication:
        masters = list(publication.masters)
        at = number % len(masters)
        masters[at] = replace(masters[at], **changes)
        return replace(publication, masters=tuple(masters))

    return change


def of_page(number: int, new: Callable) -> Callable[[Publication], Publication]:
    def change(publication: Publication) -> Publication:
        sections = list(publication.sections)
        at = number % len(sections)
        pages = list(sections[at].pages)
        pages[0] = new(pages[0])
        sections[at] = replace(sections[at], pages=tuple(pages))
        return replace(publication, sections=tuple(sections))

    return change


def with_item(number: int, item: Shape) -> Callable[[Publication], Publication]:
    def change(publication: Publication) -> Publication:
        named = replace(item, id=f"item-{publication.next_id}")
        grown = replace(publication, next_id=publication.next_id + 1)
        return of_page(number, lambda page: replace(page, items=(*page.items, named)))(grown)

    return change


BOX = Shape(id="", x=0.0, y=0.0, width=9.0, height=9.0)
CHANGES: list[Callable[[int], Callable[[Publication], Publication]]] = [
    lambda n: of_master(n, margins=HUGE),
    lambda n: of_master(n, margins=Margins(top=9.0, bottom=9.0, inside=9.0, outside=9.0)),
    lambda n: of_master(n, base="master-none"),
    lambda n: of_master(n, name=f"Other {n}"),
    lambda n: lambda p: replace(p, setup=replace(p.setup, margins=HUGE)),
    lambda n: lambda p: replace(p, setup=replace(p.setup, trim=Size(5.0, 5.0))),
    lambda n: lambda p: replace(p, setup=replace(p.setup, trim=Size(90.0 + 40 * n, 300.0))),
    lambda n: lambda p: replace(p, setup=replace(p.setup, bleed=900.0)),
    lambda n: of_page(n, lambda page: replace(page, masters=("master-none",))),
    lambda n: of_page(n, lambda page: replace(page, overrides=(Override(item="none", x=1.0),))),
    lambda n: of_page(n, lambda page: replace(page, overrides=(Override(item="a"),) * 2)),
    lambda n: with_item(n, BOX),
    lambda n: with_item(n, replace(BOX, layer="none")),
    lambda n: with_item(n, replace(BOX, fill=Fill("none"))),
    lambda n: with_item(n, replace(BOX, x=float("inf"))),
    lambda n: lambda p: replace(p, colours=p.colours[1:]),
    lambda n: lambda p: replace(p, layers=()),
    lambda n: lambda p: replace(p, paragraph_styles=p.paragraph_styles[n % 3 :]),
    lambda n: lambda p: replace(p, default_masters=("master-none",)),
    lambda n: lambda p: replace(p, rules=(*p.rules, MasterRule(id="rule-x", masters=("none",)))),
]  # fmt: skip


@settings(max_examples=150, deadline=None, suppress_health_check=list(HealthCheck))
@given(picked=st.lists(st.tuples(st.sampled_from(CHANGES), st.integers(0, 7)), max_size=4))
def test_the_history_takes_what_can_be_kept_and_nothing_else(picked):
    history = History.of(almanac_alone())
    for make, number in picked:
        try:
            new = make(number)(history.now)
        except (IndexError, ValueError):
            continue
        wrong = problems(new)
        try:
            history = record(history, new, "change")
            taken = True
        except Refusal:
            taken = False
        told = wrong[0] if wrong else "nothing is wrong"
        if taken == bool(wrong):
            pytest.fail(f"{'taken' if taken else 'refused'}, although: {told}")
    assert not problems(history.now)


def test_what_was_taken_comes_back_equal(demo):
    publication, blobs = demo
    history = History.of(publication)
    for number, make in enumerate(CHANGES):
        try:
            history = record(history, make(number)(history.now), "change")
        except Refusal:
            continue
    assert len(history.past) > 3
    assert from_bytes(to_bytes(history.now, blobs), "a.hframe").publication == history.now


def test_margins_that_leave_no_room_are_refused_at_once(demo):
    with pytest.raises(Refusal, match="margins of master “Almanac base” leave no room"):
        record(History.of(demo[0]), of_master(0, margins=HUGE)(demo[0]), "margins")
