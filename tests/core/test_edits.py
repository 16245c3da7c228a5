"""Random sequences of edits keep every invariant, and undoing all gives back the first value."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule
from msgspec.structs import replace

from hidden_frame.edit.about import rename_detail, set_detail
from hidden_frame.edit.carry.items import copied, pasted
from hidden_frame.edit.history import History, jump, record, redo, undo
from hidden_frame.edit.items.draw import (
    add_item,
    change_items,
    group_items,
    move_in_stack,
    rehome_items,
    remove_items,
    reorder_items,
    repeat_items,
    ungroup_items,
)
from hidden_frame.edit.items.guides import add_guide, remove_guide
from hidden_frame.edit.looks.colours import add_colour, change_colour, delete_colour
from hidden_frame.edit.looks.layers import change_layer
from hidden_frame.edit.masters.apply import (
    add_master,
    apply_masters,
    delete_master,
    possible_bases,
    set_base,
)
from hidden_frame.edit.masters.overrides import follow, make_local, override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.folios import FolioPlan, place_folios, remove_folios
from hidden_frame.edit.pages.order import (
    add_pages,
    delete_pages,
    duplicate_pages,
    move_pages,
    set_blind,
)
from hidden_frame.edit.pages.sections import join_with_previous, start_section
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS

picks = st.integers(0, 10_000)


class Designer(RuleBasedStateMachine):
    """Somebody who does anything at all, in any order."""

    def __init__(self):
        super().__init__()
        self.first = new_publication("Any", Setup(trim=TRIMS["A5"]), 6)
        self.history = History.of(self.first)

    @property
    def now(self):
        return self.history.now

    def pick(self, values, number):
        values = list(values)
        return values[number % len(values)]

    def page(self, number):
        return self.pick(all_pages(self.now), number).id

    def master(self, number):
        return self.pick(self.now.masters, number).id

    def edit(self, new):
        self.history = record(self.history, new, "edit")

    @rule(n=picks, on_master=st.booleans())
    def add_item(self, n, on_master):
        holder = self.master(n) if on_master and self.now.masters else self.page(n)
        text = (Paragraph("body", (Marker("folio"),)),)
        item = TextFrame(id="", x=n % 300, y=10, width=50, height=20, text=text)
        self.edit(add_item(self.now, holder, item)[0])

    @rule(n=picks)
    def add_master(self, n):
        base = self.master(n) if self.now.masters and n % 2 else None
        self.edit(add_master(self.now, "Master", base)[0])

    @precondition(lambda self: self.now.masters)
    @rule(n=picks, k=picks)
    def rebase(self, n, k):
        master = self.master(n)
        bases = [None, *(m.id for m in possible_bases(self.now, master))]
        self.edit(set_base(self.now, master, self.pick(bases, k)))

    @precondition(lambda self: self.now.masters)
    @rule(n=picks, k=picks, mode=st.sampled_from(["replace", "add", "take away"]))
    def apply(self, n, k, mode):
        self.edit(apply_masters(self.now, [self.page(k)], (self.master(n),), mode))

    @precondition(lambda self: self.now.masters)
    @rule(n=picks, k=picks)
    def delete_master(self, n, k):
        gone = self.master(n)
        others = [None, *(m.id for m in self.now.masters if m.id != gone)]
        self.edit(delete_master(self.now, gone, self.pick(others, k)))

    @precondition(lambda self: any(m.items for m in self.now.masters))
    @rule(n=picks, k=picks, x=st.floats(-100, 500), back=st.booleans())
    def override(self, n, k, x, back):
        items = [i for m in self.now.masters for i in m.items]
        item = self.pick(items, n)
        if back:
            self.edit(follow(self.now, self.page(k), item.id))
        elif k % 3:
            self.edit(override(self.now, self.page(k), item.id, x=x, visible=False))
        else:
            self.edit(make_local(self.now, self.page(k), item.id, item)[0])

    @precondition(lambda self: any(m.items for m in self.now.masters))
    @rule(n=picks)
    def remove_master_item(self, n):
        master, item = self.pick([(m, i) for m in self.now.masters for i in m.items], n)
        self.edit(remove_items(self.now, master.id, [item.id]))

    @rule(n=picks, k=picks, count=st.integers(1, 3))
    def add_pages(self, n, k, count):
        section = self.pick(self.now.sections, n)
        self.edit(add_pages(self.now, section.id, k % (len(section.pages) + 1), count)[0])

    @rule(n=picks, k=picks)
    def duplicate(self, n, k):
        self.edit(duplicate_pages(self.now, {self.page(n), self.page(k)})[0])

    @rule(n=picks, k=picks)
    def delete_pages(self, n, k):
        gone = {self.page(n), self.page(k)}
        if len(gone) < len(all_pages(self.now)):
            self.edit(delete_pages(self.now, gone))
        else:
            with pytest.raises(Refusal):
                delete_pages(self.now, gone)

    @rule(n=picks, k=picks, at=picks)
    def move(self, n, k, at):
        section = self.pick(self.now.sections, n)
        index = at % (len(section.pages) + 1)
        self.edit(move_pages(self.now, {self.page(k), self.page(n)}, section.id, index))

    @rule(n=picks)
    def section(self, n):
        self.edit(start_section(self.now, self.page(n), f"Part {n}")[0])

    @precondition(lambda self: len(self.now.sections) > 1)
    @rule(n=picks)
    def join(self, n):
        section = self.pick(self.now.sections[1:], n)
        self.edit(join_with_previous(self.now, section.id))

    def holder(self, n):
        """A page or a master that holds items, or None."""
        held = [h for h in (*self.now.masters, *all_pages(self.now)) if h.items]
        return self.pick(held, n) if held else None

    @rule(n=picks, k=picks, to=st.sampled_from(["front", "back", "forward", "backward"]))
    def restack(self, n, k, to):
        held = self.holder(n)
        if held is not None:
            item = self.pick(held.items, k).id
            self.edit(reorder_items(self.now, held.id, [item], to))
            layer = self.pick(self.now.layers, k).id
            self.edit(move_in_stack(self.now, held.id, item, self.pick(held.items, n).id, layer))

    @rule(n=picks, k=picks, count=st.integers(1, 3))
    def group_and_repeat(self, n, k, count):
        held = self.holder(n)
        if held is None or len(held.items) > 40:
            return
        ids = [i.id for i in held.items[: k % 3 + 1]]
        self.edit(group_items(self.now, held.id, ids))
        self.edit(repeat_items(self.now, held.id, ids, count, 3.0, 4.0)[0])
        if k % 2:
            self.edit(ungroup_items(self.now, held.id, ids))

    @rule(n=picks, k=picks)
    def to_another_page(self, n, k):
        pages = [p for p in all_pages(self.now) if p.items]
        if pages:
            page = self.pick(pages, n)
            self.edit(rehome_items(self.now, page.id, self.page(k), [page.items[0].id], 9.0))

    @rule(n=picks, k=picks)
    def carry(self, n, k):
        held = self.holder(n)
        if held is not None and len(held.items) < 40:
            clip = copied(self.now, held.items)
            self.edit(pasted(self.now, self.page(k), clip, 5.0, 5.0)[0])

    @rule(n=picks, k=picks)
    def colours(self, n, k):
        self.edit(add_colour(self.now, "Tone", "rgb", (n % 7 / 7, 0.5, 0.5))[0])
        gone, instead = self.pick(self.now.colours, n), self.pick(self.now.colours, k)
        if gone.id != instead.id:
            self.edit(delete_colour(self.now, gone.id, instead.id))
        last = self.now.colours[-1]
        self.edit(change_colour(self.now, replace(last, values=(0.1,) * len(last.values))))

    @rule(n=picks, at=st.floats(-50, 900), upright=st.booleans())
    def guide(self, n, at, upright):
        held = self.master(n) if self.now.masters and n % 2 else self.page(n)
        axis = "vertical" if upright else "horizontal"
        self.edit(add_guide(self.now, held, Guide(axis, at)))
        if n % 3 == 0:
            self.edit(remove_guide(self.now, held, 0))

    @precondition(lambda self: self.now.masters)
    @rule(n=picks, k=picks, place=st.sampled_from(["outside", "centre", "point"]))
    def folios(self, n, k, place):
        folio, count = Marker("folio"), Marker("page count")
        forms = [(folio,), (Run("Page "), folio, Run(" of "), count)]
        plan = FolioPlan(place=place, content=self.pick(forms, k))
        self.edit(place_folios(self.now, [self.master(n), self.master(k)], plan))
        if k % 4 == 0:
            self.edit(remove_folios(self.now))

    @rule(n=picks)
    def layer(self, n):
        layer = self.pick(self.now.layers, n)
        self.edit(change_layer(self.now, layer.id, locked=not layer.locked, visible=n % 2 == 0))

    @rule(n=picks)
    def blind(self, n):
        self.edit(set_blind(self.now, [self.page(n)], bool(n % 2)))

    @rule()
    def undo_and_redo(self):
        now = self.now
        back = undo(self.history)
        assert redo(back).now is now or not self.history.past

    @rule()
    def undo(self):
        self.history = undo(self.history)

    @invariant()
    def every_invariant_holds(self):
        assert problems(self.now) == []

    def teardown(self):
        history = self.history
        while history.past:
            history = undo(history)
        assert history.now is self.first


TestDesigner = Designer.TestCase
TestDesigner.settings = TestDesigner.settings.__class__(
    max_examples=25, stateful_step_count=30, deadline=None, derandomize=True
)


@given(st.sets(st.integers(0, 7), min_size=1), st.integers(0, 8))
def test_moving_pages_against_a_plain_list(chosen, index):
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 8)
    ids = [p.id for p in all_pages(publication)]
    moving = [ids[n] for n in chosen]
    kept = [i for i in ids if i not in moving]
    at = sum(i not in moving for i in ids[:index])
    expected = kept[:at] + [i for i in ids if i in moving] + kept[at:]
    section = publication.sections[0].id
    moved = move_pages(publication, moving, section, index)
    assert [p.id for p in all_pages(moved)] == expected
    assert (moved is publication) == (expected == ids)  # R22


def test_a_loop_of_bases_is_refused_with_its_chain(small):
    publication, a = add_master(small, "A")
    publication, b = add_master(publication, "B", a)
    publication, c = add_master(publication, "C", b)
    with pytest.raises(Refusal, match="A → C → B → A"):
        set_base(publication, a, c)


def test_typing_merges_into_one_step(small):
    history = History.of(small)
    page = all_pages(small)[0].id
    with_item, item = add_item(small, page, Shape(id="", x=0, y=0, width=9, height=9))
    history = record(history, with_item, "draw")
    for x in (1.0, 2.0, 3.0):
        moved = change_items(history.now, page, {item: {"x": x}})
        history = record(history, moved, "nudge", "nudge item")
    assert [step.name for step in history.past] == ["draw", "nudge"]
    assert undo(history).now is with_item


def test_a_renamed_detail_takes_its_markers_along(small):
    publication = set_detail(small, "Issue", "4")
    master = publication.masters[0].id
    text = (Paragraph("body", (Marker("detail", "Issue"),)),)
    frame = TextFrame(id="", x=0, y=0, width=9, height=9, text=text)
    publication, _ = add_item(publication, master, frame)
    renamed = rename_detail(publication, "Issue", "Number")
    assert renamed.masters[0].items[0].text[0].content[0].detail == "Number"


def test_bad_input_changes_nothing_and_says_so(small):
    page = all_pages(small)[0].id
    with pytest.raises(Refusal, match="at most 5000"):
        add_pages(small, small.sections[0].id, 0, 20_000)
    with pytest.raises(Refusal, match="5000"):
        new_publication("P", Setup(trim=TRIMS["A5"]), 20_000)
    with pytest.raises(Refusal, match="negative"):
        publication, item = add_item(small, page, Shape(id="", x=0, y=0, width=9, height=9))
        change_items(publication, page, {item: {"width": -1.0}})


def test_jumping_in_the_history_is_undoing_or_redoing_so_often(small):
    history, page = History.of(small), all_pages(small)[0].id
    values = [small]
    for n in range(5):
        new, _ = add_item(history.now, page, Shape(id="", x=n, y=0, width=9, height=9))
        history = record(history, new, f"draw {n}")
        values.append(new)
    for steps, at in ((-3, 2), (2, 4), (-99, 0), (99, 5)):
        history = jump(history, steps)
        assert history.now is values[at]
        assert len(history.past) == at and len(history.future) == 5 - at
        # A step keeps its name wherever one stands.
        names = [s.name for s in history.past] + [s.name for s in history.future[::-1]]
        assert names == [f"draw {n}" for n in range(5)]
