"""What differs between two states of a publication, in words.

>>> other = replace(publication, title="Field notes 2")
>>> compared(publication, other), compared(publication, publication)
('its title', 'nothing')
"""

from __future__ import annotations

from hidden_frame.compose.facts import page_facts
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication

MOST = 8  # pages that are named

_PARTS = {
    "title": "its title", "masters": "masters", "stories": "stories", "setup": "its setup",
    "paragraph_styles": "paragraph styles", "character_styles": "character styles",
    "colours": "colours", "details": "details", "layers": "layers", "rules": "rules for masters",
    "about": "what it says of itself",
}  # fmt: skip


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


def changed_pages(mine: Publication, theirs: Publication) -> list[str]:
    """The pages that are not the same in theirs, or are there only, by id."""
    here = {p.id: p for p in all_pages(mine)}
    return [p.id for p in all_pages(theirs) if here.get(p.id) != p]


def _pages(how: str, ids: list[str], publication: Publication) -> list[str]:
    if not ids:
        return []
    facts = page_facts(publication)
    told = [facts[i].folio or f"#{facts[i].position}" for i in ids[:MOST]]
    more = f" and {len(ids) - MOST} more" if len(ids) > MOST else ""
    return [f"page{'s' * (len(ids) > 1)} {', '.join(told)}{more} {how}"]
