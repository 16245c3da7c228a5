"""What a master that is dropped does, told beforehand.

On a page it is applied, with Ctrl added on top; between two pages it makes a new page; on
another master it is built on that one.

>>> on_page(publication, (), master, page, adding=True).words
'Add “Base” on top of page 1 (#3)'
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.edit.masters.apply import possible_bases
from hidden_frame.interact.words.foretold import gap_in_words
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
from hidden_frame.model.publication import Publication

EDGE = 6.0  # pixels within a thumbnail at each side: a drop there goes between pages


class MasterDrop(NamedTuple):
    """A drop's meaning: on `pages`, or between pages at a `place` (section and index there)."""

    master_id: str
    pages: tuple[str, ...]
    place: tuple[str, int] | None
    adding: bool
    words: str


def on_page(
    publication: Publication, selected: tuple[str, ...], master_id: str, page_id: str, adding: bool
) -> MasterDrop:
    """A master on a page, or on all selected ones if it is among them."""
    known = masters_by_id(publication)
    name = known[master_id].name
    pages = selected if page_id in selected else (page_id,)
    facts = page_facts(publication)[page_id]
    on = f"page {page_name(facts)}" if len(pages) == 1 else f"{len(pages)} pages"
    if adding:
        return MasterDrop(master_id, pages, None, True, f"Add “{name}” on top of {on}")
    words = f"Apply “{name}” to {on}"
    stack = [known[m].name for m in stack_of(publication, find_page(publication, page_id))]
    if len(pages) == 1 and stack and stack != [name]:
        words += f", in place of {' + '.join(stack)}"
    return MasterDrop(master_id, pages, None, False, words)


def between(publication: Publication, master_id: str, place: tuple[str, int]) -> MasterDrop:
    """A new page that follows a master, at a place between pages."""
    name = masters_by_id(publication)[master_id].name
    where = gap_in_words(publication, *place)
    where, _, within = where.partition(", in ")
    words = f"New page {where}, following “{name}”" + (f", in {within}" if within else "")
    return MasterDrop(master_id, (), place, False, words)


class BaseDrop(NamedTuple):
    """What a drop on the board would do: the base it gives, in words, and whether it may be."""

    target: str | None = None
    words: str = ""
    allowed: bool = True


def on_board(publication: Publication, master_id: str, target: str | None) -> BaseDrop:
    """A master dropped on another one, or beside all: then it has no base any more (R6)."""
    known = masters_by_id(publication)
    if master_id not in known or target == master_id:
        return BaseDrop()
    name, base = known[master_id].name, known[master_id].base
    if target is None:
        return BaseDrop(None, f"“{name}” without a base") if base is not None else BaseDrop()
    if target == base:
        return BaseDrop(None, f"“{name}” is built on “{known[target].name}” already", False)
    if all(m.id != target for m in possible_bases(publication, master_id)):
        return BaseDrop(None, f"“{known[target].name}” builds on “{name}” itself", False)
    return BaseDrop(target, f"Build “{name}” on “{known[target].name}”")
