"""A section carried whole: its name, numbering and masters come along, and its pages look alike."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import page_facts
from hidden_frame.edit.carry.pages import section_copied, section_pasted
from hidden_frame.edit.new import new_publication
from hidden_frame.model.invariants import problems
from hidden_frame.model.lookup import find_section, stack_of


def looks(publication, page_id):
    scene = Composer().compose(publication).scene(page_id)
    return sorted((p.name, round(p.matrix.e, 3), round(p.matrix.f, 3)) for p in scene.placed
                  if p.printing)  # fmt: skip


@pytest.mark.parametrize("name", ["Cover", "Front matter", "Summer", "Visitors", "Back cover"])
def test_a_section_in_another_publication_is_as_it_was(demo, name):
    publication, _ = demo
    section = next(s for s in publication.sections if s.name == name)
    other = new_publication("Other", publication.setup, 2 if section.pages[0] else 1)
    parcel = section_copied(publication, section.id)
    after, pages, made = section_pasted(other, parcel, other.sections[-1].id)
    assert problems(after) == []
    new = find_section(after, made)
    assert new.name == name and new.numbering == section.numbering
    assert [p.id for p in new.pages] == pages and len(pages) == len(section.pages)
    names = {m.id: m.name for m in (*publication.masters, *after.masters)}
    names |= {m.id: m.name for m in after.masters}
    before_names = {m.id: m.name for m in publication.masters}
    for old, page in zip(section.pages, new.pages, strict=True):
        assert (old.masters is None) == (page.masters is None)
        assert [before_names[m] for m in stack_of(publication, old)] == [
            names[m] for m in stack_of(after, page)
        ]
        facts = page_facts(after)[page.id]
        if page_facts(publication)[old.id].side == facts.side:
            assert looks(publication, old.id) == looks(after, page.id)


def test_within_its_own_publication_it_gets_a_name_of_its_own(demo):
    publication, _ = demo
    summer = next(s for s in publication.sections if s.name == "Summer")
    parcel = section_copied(publication, summer.id)
    after, _, made = section_pasted(publication, parcel, summer.id)
    assert find_section(after, made).name == "Summer 2"
    assert len(after.masters) == len(publication.masters)
    assert [s.id for s in after.sections].index(made) == 1 + [s.id for s in after.sections].index(
        summer.id
    )
    assert replace(find_section(after, made), id="", name="", pages=()) == replace(
        summer, id="", name="", pages=()
    )
