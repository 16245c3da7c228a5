"""Derived values are remembered by what they came from, within one budget."""

from __future__ import annotations

import gc
import weakref

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.edit.text.write import insert
from hidden_frame.model import memory as memory_module
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.memory import MEMORY, Memory, remembered, weigh
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled
from hidden_frame.typeset import paragraphs


class Thing:
    """Something that can be told apart and looked after."""


def counted(memory, **how):
    calls = []

    @remembered(memory=memory, **how)
    def derived(thing, word: str = "", pair=()):
        calls.append((thing, word, pair))
        return [thing]

    return derived, calls


def test_the_same_objects_are_worked_out_once_and_equal_ones_are_not_the_same():
    derived, calls = counted(Memory())
    one, other = [1], [1]
    assert derived(one) is derived(one) and derived(one) is not derived(other)
    assert len(calls) == 2


def test_arguments_count_alike_by_place_by_name_and_by_default():
    derived, calls = counted(Memory(), by_value=("pair",))
    thing = Thing()
    first = derived(thing, "a", (1, 2))
    assert derived(thing, pair=(1, 2), word="a") is first
    assert derived(thing=thing, word="a", pair=(1, 2)) is first
    assert derived(thing) is derived(thing, "") is derived(thing, "", ())
    assert len(calls) == 2


def test_what_is_named_counts_by_value_and_what_is_not_by_identity():
    by_value, seen = counted(Memory(), by_value=("pair",))
    by_identity, seen_too = counted(Memory())
    thing = Thing()
    for _ in range(3):
        by_value(thing, "", tuple(range(2)))
        by_identity(thing, "", tuple(range(2)))
    assert len(seen) == 1 and len(seen_too) == 3


def test_many_at_once_are_the_same_as_one_by_one():
    derived, calls = counted(Memory())
    things = [Thing() for _ in range(5)]
    one = derived(things[2], "a", ())
    found = derived.each(things, "a", ())
    assert found[2] is one and len(calls) == 5
    assert all(a is b for a, b in zip(found, derived.each(things, "a", ()), strict=True))


def test_a_name_that_is_no_parameter_is_refused():
    with pytest.raises(TypeError, match="has no pear"):
        counted(Memory(), by_value=("pear",))


def test_an_identity_is_not_used_again_while_it_is_remembered():
    memory = Memory()

    @remembered(memory=memory)
    def derived(thing):
        return [thing]

    thing = Thing()
    gone = weakref.ref(thing)
    derived(thing)
    del thing
    gc.collect()
    assert gone() is not None
    memory.clear_stale()
    memory.clear_stale()
    gc.collect()
    assert gone() is None and derived.memo.entries == 0


@given(st.lists(st.tuples(st.integers(0, 5), st.booleans()), max_size=40))
def test_clearances_drop_exactly_what_was_not_asked_for(steps):
    """Against a list of when each thing was last asked for."""
    memory = Memory()
    derived, calls = counted(memory)
    things, asked, now = [Thing() for _ in range(6)], {}, 0
    for number, clears in steps:
        if clears:
            memory.clear_stale()
            now += 1
            continue
        before = len(calls)
        derived(things[number])
        fresh = number not in asked or now - asked[number] > 1
        assert (len(calls) > before) == fresh
        asked[number] = now


def test_nothing_is_dropped_within_one_version_or_while_little_was_made():
    memory = Memory(slack=1_000)
    derived, calls = counted(memory)
    things = [Thing() for _ in range(50)]
    for _ in range(3):
        memory.turn("one")
        for thing in things:
            derived(thing)
    assert len(calls) == 50 and memory.new > 1_000
    memory.turn("two")
    memory.turn("three")  # nothing was made since
    assert derived.memo.entries == 50


def test_what_is_shared_stays_as_long_as_somebody_holds_it():
    memory = Memory()
    derived, calls = counted(memory, shared=True)
    held, let_go = Thing(), Thing()
    kept = derived(held)
    derived(let_go)
    for _ in range(4):
        memory.clear_stale()
    assert derived.memo.entries == 1 and derived(held) is kept and len(calls) == 2
    derived(let_go)
    del kept
    for _ in range(2):
        memory.clear_stale()
    assert derived.memo.entries == 0 and len(calls) == 3


def test_a_story_that_shifts_after_long_work_sets_none_of_its_paragraphs_anew(monkeypatch):
    """Clearances come with typing; what the flow stands on is not forgotten by them."""
    publication = new_publication("M", Setup(trim=TRIMS["A5"]), 1)
    frame = TextFrame(id="", x=40, y=40, width=300, height=400, main=1)
    publication, _ = add_item(publication, publication.masters[0].id, frame)
    text = tuple(Paragraph("body", (Run(f"{n} {words(60)}"),)) for n in range(120))
    publication, story = pour(publication, publication.sections[0].id, text)
    composer = Composer()
    publication = settled(publication, composer)
    pages = len(all_pages(publication))
    assert composer.compose(publication).flow(story).rest is None and pages > 8
    for _ in range(3):
        MEMORY.clear_stale()
    calls, made = [], paragraphs.SetParagraph.__init__
    monkeypatch.setattr(
        paragraphs.SetParagraph, "__init__",
        lambda self, spec, *rest: calls.append(spec) or made(self, spec, *rest),
    )  # fmt: skip
    longer = (Paragraph("body", (Run(words(700)),)), *text[1:])
    publication = settled(set_story_text(publication, story, longer), composer)
    assert composer.compose(publication).flow(story).rest is None
    assert len(all_pages(publication)) > pages and 0 < len(calls) < 12


def test_weights_and_the_report():
    memory = Memory()
    derived, _ = counted(memory, weigh=lambda result: 10_000 * len(result))
    derived(Thing())
    (row,) = memory.report()
    assert row.entries == 1 and 10_000 < row.weight < 11_000 and "derived" in row.name
    assert weigh(tuple(range(100))) > weigh((1,)) > weigh("a")


def words(count):
    return " ".join(f"word{n % 97}" for n in range(count))


@pytest.mark.parametrize("paragraphs", [1, 30])
def test_many_edits_of_a_long_text_do_not_pile_up(paragraphs):
    """400 edits of 3,000 words: what is kept afterwards weighs as much as after 100."""
    text = tuple(Paragraph("body", (Run(words(3000 // paragraphs)),)) for _ in range(paragraphs))
    publication = new_publication("M", Setup(trim=TRIMS["A4"]), 2)
    page = all_pages(publication)[0].id
    frame = TextFrame(id="", x=40, y=40, width=500, height=760, text=text)
    publication, item = add_item(publication, page, frame)
    composer, kept = Composer(), []
    for n in range(400):
        now, _ = insert(all_pages(publication)[0].items[0].text, (0, 5 + n), "x")
        publication = change_items(publication, page, {item: {"text": now}})
        composer.compose(publication).scene(page)
        if n in (99, 399):
            kept.append(sum(row.weight for row in MEMORY.report()))
    assert kept[1] < kept[0] + 25 * 1024**2


def test_a_page_in_sight_keeps_its_scene_through_clearances():
    publication, _ = almanac()
    composer = Composer()
    page = all_pages(publication)[8].id
    scene = composer.compose(publication).scene(page)
    for n in range(4):
        MEMORY.clear_stale()
        publication = set_title(publication, f"Night Sky Almanac {n}")
    again = composer.compose(publication).scene(page)
    assert [p.item_id for p in again.placed] == [p.item_id for p in scene.placed]


def test_a_walk_lets_go_of_what_it_made_and_of_nothing_else(monkeypatch):
    monkeypatch.setattr(memory_module, "_PASSED", 5)
    memory = Memory()
    passing, made = counted(memory, passing=True)
    lasting, kept = counted(memory)
    before = Thing()
    passing(before)
    things = [Thing() for _ in range(20)]
    for thing in things:
        with memory.walk():
            passing(thing)
            lasting(thing)
    assert passing.memo.entries <= 1 + 5 + 1 and lasting.memo.entries == 20
    passing(before)
    for thing in things:
        lasting(thing)
    assert len(made) == 21 and len(kept) == 20


def test_pages_that_a_walk_has_passed_are_edited_as_if_they_were_new(demo, monkeypatch):
    """What a walk let go of is made again: the same page comes of it."""
    monkeypatch.setattr(memory_module, "_PASSED", 20)
    publication, composer = demo[0], Composer()
    composition = composer.compose(publication)
    for page in all_pages(publication):
        with MEMORY.walk():
            composition.scene(page.id).rest()
    for page in all_pages(publication):
        if not page.items:
            continue
        moved = change_items(publication, page.id, {page.items[0].id: {"x": 71.0}})
        after, new = composer.compose(moved).scene(page.id), Composer().compose(moved)
        assert after.text_of() == new.scene(page.id).text_of()
        assert [p.matrix for p in after.placed] == [p.matrix for p in new.scene(page.id).placed]
    for page in all_pages(publication):  # and what it did not let go of is the same object
        assert composition.scene(page.id) is composer.compose(publication).scene(page.id)


def test_what_is_dropped_with_a_turn_is_freed_a_little_at_a_time_and_then_all_of_it():
    import weakref

    class Value:
        pass

    memory = Memory(slack=0)

    @remembered(memory=memory, weigh=lambda _: 1)
    def value(n: int) -> Value:
        return Value()

    seen = [weakref.ref(value(n)) for n in range(20_000)]
    memory.turn("one")
    value(-1)
    memory.turn("two")  # nothing was asked for since: all are dropped
    gone = sum(ref() is None for ref in seen)
    assert gone < 20_000  # not at a stroke
    for turn in range(2_000):
        memory.turn(f"turn {turn}")
    assert all(ref() is None for ref in seen)
    assert value(3) is value(3)
