"""What differs between two states of a publication: in words, and which pages to look at.

>>> other = replace(publication, title="Field notes 2")
>>> compared(publication, other), compared(publication, publication)
('its title', 'nothing')
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.scene import Primitive, Scene, TextPrimitive
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication

MOST = 8  # pages that are named

_PARTS = {
    "title": "its title", "masters": "masters", "stories": "stories", "setup": "its setup",
    "paragraph_styles": "paragraph styles", "character_styles": "character styles",
    "colours": "colours", "details": "details", "layers": "layers", "rules": "rules for masters",
    "about": "what it says of itself",
}  # fmt: skip


class Differing(NamedTuple):
    """A page by its id, and what became of it."""

    page_id: str
    how: Literal["changed", "added", "gone"]


def compared(mine: Publication, theirs: Publication) -> str:
    """Pages that are changed, added or gone in theirs, and what else is not the same."""
    here = {p.id: p for p in all_pages(mine)}
    there = {p.id: p for p in all_pages(theirs)}
    parts: list[str] = []
    changed = [i for i, page in there.items() if i in here and page != here[i]]
    parts += _pages("changed", changed, theirs)
    parts += _pages("added", [i for i in there if i not in here], theirs)
    parts += _pages("gone", [i for i in here if i not in there], mine)
    both = [i for i in here if i in there]
    if both != [i for i in there if i in here]:
        parts.append("the order of pages")
    parts += [told for name, told in _PARTS.items() if getattr(mine, name) != getattr(theirs, name)]
    return ", ".join(parts) or "nothing"


def differing_pages(
    mine: Composition, theirs: Composition, enough: Callable[[int], bool]
) -> list[Differing]:
    """The pages that differ: first those that say so themselves, in the order of theirs, then
    those that look different for another reason, as by a master or a story.

    The latter are composed page by page until there is `enough`, which is asked with the number
    found.
    """
    here = {p.id: p for p in all_pages(mine.publication)}
    there = {p.id: p for p in all_pages(theirs.publication)}
    found = [
        Differing(i, "changed" if i in here else "added")
        for i, page in there.items() if here.get(i) != page
    ]  # fmt: skip
    found += [Differing(i, "gone") for i in here if i not in there]
    told = {page.page_id for page in found}
    for i in there:
        if enough(len(found)):
            break
        if i not in told and _look(mine.scene(i)) != _look(theirs.scene(i)):
            found.append(Differing(i, "changed"))
    return found


def _look(scene: Scene) -> list[object]:
    """What is printed of a page, as something that can be compared."""
    return [scene.width, scene.height, *(
        (placed.matrix, placed.multiplied, [_part(p) for p in placed.drawing.primitives])
        for placed in scene.placed if placed.printing
    )]  # fmt: skip


def _part(primitive: Primitive) -> object:
    if not isinstance(primitive, TextPrimitive):
        return primitive
    lines = primitive.text.lines[: primitive.shown]
    return primitive._replace(text=None), [  # type: ignore[arg-type]
        (line.x, line.top, [(run.text, run.setting, run.span.ink, run.xs) for run in line.runs])
        for line in lines
    ]


def _pages(how: str, ids: list[str], publication: Publication) -> list[str]:
    if not ids:
        return []
    facts = page_facts(publication)
    told = [facts[i].folio or f"#{facts[i].position}" for i in ids[:MOST]]
    more = f" and {len(ids) - MOST} more" if len(ids) > MOST else ""
    return [
        plural(
            len(ids),
            "page {which} {how}",
            "pages {which} {how}",
            which=", ".join(told) + more,
            how=how,
        )
    ]
