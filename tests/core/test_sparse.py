"""What is found of a long sequence after edits is what would be found of it anew."""

from __future__ import annotations

import msgspec
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.followers import direct_followers, follower_counts, followers
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.masters.apply import apply_masters
from hidden_frame.edit.pages.order import delete_pages, move_pages
from hidden_frame.model import memory
from hidden_frame.model.lookup import all_pages, positions, section_of
from hidden_frame.model.sparse import Projection, Sparse
from hidden_frame.settle.references import has_references


class Thing:
    """Something with a value, that is itself and no other."""

    def __init__(self, value):
        self.value = value


values = st.sampled_from([None, 0, 1, 2])
edits = st.lists(
    st.tuples(st.integers(0, 12), st.integers(0, 3), st.lists(values, max_size=3)), max_size=12
)


@given(st.lists(values, max_size=12), edits)
def test_whatever_is_cut_and_put_in_the_answer_is_that_of_a_cold_start(start, changes):
    sparse = Sparse(lambda thing: thing.value)
    shown = Projection(lambda thing: thing.value)
    now = tuple(Thing(value) for value in start)
    before = None
    for at, gone, new in [(0, 0, []), *changes]:
        now = (*now[:at], *(Thing(value) for value in new), *now[at + gone :])
        found, seen = sparse(now), shown(now)
        assert found == [(n, t.value) for n, t in enumerate(now) if t.value is not None]
        assert seen == tuple(t.value for t in now)
        if before is not None and seen == before:
            assert seen is before
        before = seen


def test_of_many_sequences_none_takes_the_place_of_another():
    asked = []
    sparse = Sparse(lambda thing: asked.append(thing) or thing.value)
    several = [tuple(Thing(n) for n in range(5)) for _ in range(40)]
    for _ in range(3):
        for one in several:
            assert len(sparse(one)) == 5
    assert len(asked) == 200


def naive_followers(publication):
    masters = {m.id: m for m in publication.masters}
    found = {i: [] for i in masters}
    for section in publication.sections:
        automatic = section.masters
        automatic = publication.default_masters if automatic is None else automatic
        for page in section.pages:
            own = page.ruled if page.masters is None else page.masters
            seen = set()
            for at in automatic if own is None else own:
                while at and at not in seen:
                    seen.add(at)
                    at = masters[at].base
            for at in seen:
                found[at].append(page.id)
    return found


@given(st.data())
def test_what_is_known_of_pages_after_edits_is_known_of_a_copy(demo, data):
    """A copy has no object in common with what was edited: nothing of it is remembered."""
    now, _ = demo
    for _ in range(data.draw(st.integers(1, 4))):
        pages = all_pages(now)
        page = data.draw(st.sampled_from(pages))
        what = data.draw(st.sampled_from(["delete", "move", "master", "item", "blind"]))
        if what == "delete" and len(pages) > 8:
            now = delete_pages(now, [page.id])
        elif what == "move" and page.held is None:  # a held page is refused
            section = data.draw(st.sampled_from(now.sections))
            now = move_pages(now, [page.id], section.id, 0)
        elif what == "master":
            now = apply_masters(now, [page.id], (data.draw(st.sampled_from(now.masters)).id,))
        elif what == "item" and page.items:
            now = change_items(now, page.id, {page.items[0].id: {"x": 12.0}})
        elif what == "blind":
            now = replace(now, sections=tuple(
                replace(s, pages=tuple(replace(p, blind=not p.blind) if p is page else p
                                       for p in s.pages)) for s in now.sections
            ))  # fmt: skip
        anew = copied(now)
        assert page_facts(now) == page_facts(anew) and positions(now) == positions(anew)
        assert followers(now) == followers(anew)
        assert follower_counts(now) == {m: len(pages) for m, pages in followers(now).items()}
        assert {k: sorted(v) for k, v in followers(now).items()} == {
            k: sorted(v) for k, v in naive_followers(now).items()
        }
        assert direct_followers(now) == direct_followers(anew)
        assert frames_with_lists(now.sections) == frames_with_lists(anew.sections)
        assert has_references(now) == has_references(anew)
        assert all(section_of(now, p.id).id == section_of(anew, p.id).id for p in all_pages(now))


def copied(publication):
    memory.MEMORY.clear_stale()
    data = msgspec.json.encode(publication)
    return msgspec.json.decode(data, type=type(publication))
