"""What is looked at and selected: whatever one does and whatever is edited, it is there."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.facts import page_facts
from hidden_frame.edit.items.draw import add_item, remove_items
from hidden_frame.edit.items.guides import add_guide, own_guides, remove_guides
from hidden_frame.edit.masters.apply import add_master, apply_masters, delete_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import delete_pages, move_pages
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.interact.sight import acts
from hidden_frame.interact.sight.kept import kept
from hidden_frame.interact.sight.value import (
    Editing,
    GuideAt,
    faces_on_desk,
    first_sight,
    is_there,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_section, positions
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS


def book():
    """Eight facing pages in two sections, two masters, and frames on all of them."""
    publication = new_publication("Sight", Setup(trim=TRIMS["A5"]), 8)
    for name in ("Text", "Plate"):
        publication, master = add_master(publication, name)
        publication, _ = add_item(publication, master, frame())
    pages = [p.id for p in all_pages(publication)]
    publication = apply_masters(publication, pages[2:6], (master,))
    publication, _ = start_section(publication, pages[4], "Second")
    for page in pages:
        publication, _ = add_item(publication, page, frame())
        publication = add_guide(publication, page, Guide(axis="horizontal", position=50))
    return publication


def frame():
    return TextFrame(id="", x=40, y=40, width=100, height=100)


def subsets(of):
    return st.lists(st.sampled_from(of), unique=True, max_size=4)


def act(data, sight, publication):
    """One thing that a hand does, as the window does it."""
    pages = [p.id for p in all_pages(publication)]
    masters = [m.id for m in publication.masters]
    face = data.draw(st.sampled_from(faces_on_desk(sight, publication)))
    shown = [r.item.id for r in items_on(publication, face.holder_id, face.side)]
    page = data.draw(st.sampled_from(pages))
    some = tuple(p for p in pages if data.draw(st.booleans()))
    items = tuple(i for i in shown if data.draw(st.booleans()))
    kind = data.draw(st.sampled_from(
        ["page", "master", "board", "flatplan", "items", "guide", "pages", "section", "tool",
         "proof", "write", "write on", "crop", "unlock"]
    ))  # fmt: skip
    if kind in ("master", "board") and not masters:
        return sight
    if kind == "guide" and not own_guides(publication, face.holder_id):
        return sight
    if kind in ("write", "write on") and not shown:
        return sight
    if kind == "write on":
        here = [r.item.id for r in items_on(publication, page, page_facts(publication)[page].side)]
        if not here:
            return sight
        editing = Editing(page, here[0], page_facts(publication)[page].side)
        return acts.writing_on(sight, publication, editing)
    return {
        "page": lambda: acts.on_page(sight, publication, page),
        "master": lambda: acts.on_master(sight, data.draw(st.sampled_from(masters))),
        "board": lambda: acts.on_board(sight),
        "flatplan": lambda: acts.on_flatplan(sight, publication),
        "items": lambda: acts.with_items(sight, publication, face, items),
        "guide": lambda: acts.with_guide(sight, GuideAt(face.holder_id, 0)),
        "pages": lambda: acts.with_pages(sight, publication, some, page),
        "section": lambda: acts.with_section(
            sight, publication, data.draw(st.sampled_from(publication.sections)).id
        ),
        "tool": lambda: acts.with_tool(sight, "line"),
        "proof": lambda: acts.in_proof(sight, data.draw(st.booleans())),
        "write": lambda: acts.writing(
            acts.with_items(sight, publication, face, ()),
            Editing(face.holder_id, shown[0], face.side),
        ),
        "crop": lambda: replace(sight, cropping=len(sight.items) == 1),
        "unlock": lambda: acts.with_unlocked(sight, face.holder_id, items),
    }[kind]()


def edited(data, publication):
    """Something is taken away or moved."""
    pages = [p.id for p in all_pages(publication)]
    some = data.draw(subsets(pages))
    kind = data.draw(st.sampled_from(["delete", "move", "master", "masters", "items", "guides"]))
    try:
        if kind == "delete":
            return delete_pages(publication, some)
        if kind == "move":
            return move_pages(publication, some, publication.sections[0].id, 0)
        if kind in ("master", "masters"):
            for master in publication.masters[: 1 if kind == "master" else 2]:
                publication = delete_master(publication, master.id)
            return publication
        for page in some:
            if kind == "items":
                own = next(p for p in all_pages(publication) if p.id == page).items
                publication = remove_items(publication, page, [i.id for i in own])
            else:
                publication = remove_guides(publication, page)
    except Refusal:  # the last page of all
        pass
    return publication


def holds(sight, publication):
    order = positions(publication)
    assert is_there(sight, publication) and sight.position == order[sight.page_id]
    on_desk = {f.holder_id for f in faces_on_desk(sight, publication)}
    assert sight.holder_id in on_desk
    there = {r.item.id for r in items_on(publication, sight.holder_id, sight.side)}
    assert set(sight.items) <= there
    assert not sight.pages or sight.page_id in sight.pages
    assert sight.editing is None or sight.editing.item_id in there
    assert not sight.cropping or len(sight.items) == 1
    assert sight.mode == "pages" or sight.master_id in {m.id for m in publication.masters}
    if sight.section_id:
        own = find_section(publication, sight.section_id).pages
        assert sight.pages == tuple(p.id for p in own)
    if sight.guide is not None:
        assert sight.guide.number < len(own_guides(publication, sight.guide.holder_id))


def begun(data, publication):
    """One who has selected something on each level."""
    sight = first_sight(publication)
    pages = [p.id for p in all_pages(publication)]
    if data.draw(st.booleans()):
        section = data.draw(st.sampled_from(publication.sections))
        before = (data.draw(st.sampled_from(pages)),) if data.draw(st.booleans()) else ()
        sight = acts.with_section(sight, publication, section.id, before)
    else:
        sight = acts.with_pages(sight, publication, tuple(data.draw(subsets(pages))))
    if data.draw(st.booleans()):
        sight = acts.on_master(sight, data.draw(st.sampled_from(publication.masters)).id)
    face = data.draw(st.sampled_from(faces_on_desk(sight, publication)))
    if data.draw(st.booleans()) and own_guides(publication, face.holder_id):
        return acts.with_guide(sight, GuideAt(face.holder_id, 0))
    shown = [r.item.id for r in items_on(publication, face.holder_id, face.side)]
    sight = acts.with_items(sight, publication, face, tuple(shown[:1]))
    return replace(sight, cropping=bool(shown))


@settings(max_examples=250)
@given(st.data())
def test_after_any_acts_and_edits_what_is_looked_at_is_there(data):
    publication = book()
    sight = begun(data, publication)
    holds(sight, publication)
    for _ in range(data.draw(st.integers(1, 5))):
        if data.draw(st.booleans()):
            publication = edited(data, publication)
            sight = kept(sight, publication)
            assert kept(sight, publication) == sight
        else:
            sight = act(data, sight, publication)
        holds(sight, publication)


def test_a_deleted_page_makes_room_for_the_one_at_its_position():
    publication = book()
    pages = [p.id for p in all_pages(publication)]
    sight = acts.on_page(first_sight(publication), publication, pages[3])
    assert kept(sight, delete_pages(publication, [pages[3]])).page_id == pages[4]
    last = acts.on_page(sight, publication, pages[7])
    assert kept(last, delete_pages(publication, [pages[7]])).page_id == pages[6]


def test_what_was_written_in_and_went_is_lost_until_it_is_asked_for():
    publication = book()
    page = all_pages(publication)[0]
    sight = acts.writing(first_sight(publication), Editing(page.id, page.items[0].id, "recto"))
    now = kept(sight, remove_items(publication, page.id, (page.items[0].id,)))
    assert now.editing is None and now.lost == sight.editing and now.items == ()


def test_acts_leave_the_sight_before_them_as_it_was():
    publication = book()
    sight = first_sight(publication)
    acts.with_unlocked(sight, sight.page_id, ("a",))
    assert sight == first_sight(publication) and hash(sight) == hash(first_sight(publication))
    unlocked = acts.with_unlocked(sight, sight.page_id, ("a", "b"))
    locked = acts.with_locked(unlocked, frozenset((sight.page_id,)), frozenset("a"))
    assert locked.unlocked == {(sight.page_id, "b")}
    assert acts.with_locked(locked, frozenset((sight.page_id,))).unlocked == frozenset()


def test_a_field_of_the_window_s_sight_is_not_to_be_set():
    from hidden_frame.desktop.state.session import Session

    session = Session(book())
    with pytest.raises(AttributeError, match="by an act"):
        session.items = ("a",)
    session.finish()
