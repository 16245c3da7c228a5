"""What a master that is dropped on the Run does: told beforehand, then done.

On a page it is applied, with Ctrl added on top; between two pages it makes a new page.
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.facts import page_name
from hidden_frame.desktop.run.layout import RunLayout
from hidden_frame.desktop.session import Session
from hidden_frame.edit.masters import apply_masters
from hidden_frame.edit.pages import add_pages
from hidden_frame.model.lookup import all_pages, find_page, masters_by_id, section_of, stack_of
from hidden_frame.model.publication import Publication

EDGE = 0.16  # of a thumbnail's width, at each side: a drop there goes between pages


class MasterDrop(NamedTuple):
    """A drop's meaning: on `pages`, or between pages at `gap` (index, left of a boundary)."""

    master_id: str
    pages: tuple[str, ...]
    gap: tuple[int, bool] | None
    adding: bool
    words: str


def foretell(
    session: Session, layout: RunLayout, master_id: str, x: float, adding: bool
) -> MasterDrop | None:
    """What dropping a master at an x of the Run would do; None where it would do nothing."""
    publication = session.publication
    known = masters_by_id(publication)
    if master_id not in known:
        return None
    name = known[master_id].name
    cell = layout.at(x)
    if cell is None or not EDGE < (layout.reading(x) - cell.x) / cell.width < 1 - EDGE:
        index, left = layout.gap_at(x)
        section = section_of(publication, _neighbour(publication, index, left))
        where = "at the end"
        if index < len(layout.cells):
            where = f"before {page_name(layout.cells[index].facts)}"
        within = f", in {section.name}" if section.name else ""
        return MasterDrop(
            master_id, (), (index, left), False, f"New page {where}, following “{name}”{within}"
        )
    target = cell.facts.page_id
    pages = session.pages if target in session.pages else (target,)
    on = f"page {page_name(cell.facts)}" if len(pages) == 1 else f"{len(pages)} pages"
    if adding:
        words = f"Add “{name}” on top of {on}"
    else:
        words = f"Apply “{name}” to {on}"
        stack = [known[m].name for m in stack_of(publication, find_page(publication, target))]
        if len(pages) == 1 and stack and stack != [name]:
            words += f", in place of {' + '.join(stack)}"
    return MasterDrop(master_id, pages, None, adding, words)


def _neighbour(publication: Publication, index: int, left: bool) -> str:
    """The page beside a gap whose section the gap belongs to (R20)."""
    pages = all_pages(publication)
    before = index > 0 and (left or index == len(pages))
    return pages[index - 1 if before else index].id


def carry_out(session: Session, drop: MasterDrop) -> None:
    """Does what was foretold, as one step."""
    if drop.gap is None:
        mode = "add" if drop.adding else "replace"
        name = "add master on top" if drop.adding else "apply master"
        session.edit(
            name,
            lambda p: apply_masters(p, drop.pages, (drop.master_id,), mode),  # type: ignore[arg-type]
        )
        return
    index, left = drop.gap
    neighbour = _neighbour(session.publication, index, left)
    section = section_of(session.publication, neighbour)
    at = next(n for n, p in enumerate(section.pages) if p.id == neighbour)
    at += all_pages(session.publication).index(section.pages[at]) < index
    made: list[str] = []

    def change(publication: Publication) -> Publication:
        publication, ids = add_pages(publication, section.id, at, 1, (drop.master_id,))
        made.extend(ids)
        return publication

    if session.edit("add page", change):
        session.select_pages(tuple(made))
