"""Every override of a publication: where it stands, what it changes, whether it works.

>>> head = book.master("Base").items[0]
>>> book.page(4).override(head, x=30.0)
>>> [(d.item_name, d.names) for d in departures(book.publication)]
[('Text 20', ('x',))]
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.compose.placing import stands_on
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Override, changed_properties
from hidden_frame.model.lookup import all_pages, base_chain, master_item, stack_of
from hidden_frame.model.publication import Publication

WORDS = {
    "x": "place", "y": "place", "width": "size", "height": "size", "visible": "hidden",
    "around": "text around", "blend": "blending", "fit": "picture fit", "crop": "crop",
    "grows": "growing", "snug": "first line", "radius": "corners", "form": "form",
    "yields": "making way", "inset": "insets", "text_style": "style of all words",
    "text_colour": "colour of all words", "text_size": "size of all words",
    "on_dark": "colour on dark ground",
    "picture_on_dark": "picture on dark ground", "flip": "flipped",
}  # fmt: skip


class Departure(NamedTuple):
    """An override of a page or derived master.

    `names` are the properties it changes; `asleep` says why it has no effect now, or "".
    """

    holder_id: str
    where: str
    item_id: str
    item_name: str
    master_id: str
    master_name: str
    names: tuple[str, ...]
    asleep: str

    @property
    def sentence(self) -> str:
        """“Page 7 overrides place and fill of “Panel”, from “Opener””."""
        what = in_words(self.names)
        if self.asleep:
            return self.asleep
        return f"{self.where} overrides {what} of “{self.item_name}”, from “{self.master_name}”"


def in_words(names: tuple[str, ...]) -> str:
    """Properties as people call them, each word once: “place, size and fill”."""
    words = list(dict.fromkeys(WORDS.get(n, n) for n in names))
    return words[0] if len(words) == 1 else ", ".join(words[:-1]) + " and " + words[-1]


def departures(publication: Publication) -> list[Departure]:
    """All overrides: those of derived masters in the list's order, then page by page."""
    found: list[Departure] = []
    for master in publication.masters:
        bases = {m.id for m in base_chain(publication, master.id)[:-1]}
        for override in master.overrides:
            where = f"Master “{master.name}”"
            found.append(_departure(publication, override, master.id, where, bases, None))
    facts = page_facts(publication)
    for page in all_pages(publication):
        if not page.overrides:
            continue
        followed = {
            m.id for top in stack_of(publication, page) for m in base_chain(publication, top)
        }
        where = f"Page {page_name(facts[page.id])}"
        side = facts[page.id].side
        for override in page.overrides:
            found.append(_departure(publication, override, page.id, where, followed, side))
    return found


def _departure(
    publication: Publication,
    override: Override,
    holder_id: str,
    where: str,
    followed: set[str],
    side: Side | None,
) -> Departure:
    names = tuple(changed_properties(override))
    known = master_item(publication, override.item)
    if known is None:
        why = (
            f"{where} overrides an item that is no longer on any master; the override has no "
            "effect now."
        )
        return Departure(holder_id, where, override.item, override.item, "", "", names, why)
    master, item = known
    asleep = ""
    if master.id not in followed:
        asleep = (
            f"{where} doesn’t follow “{master.name}” now; its override of “{item.name}” has no "
            "effect now."
        )
    elif side is not None and not stands_on(item, side):
        asleep = (
            f"{where} is a {side} and “{item.name}” is on the other face of “{master.name}”; "
            "the override has no effect now."
        )
    return Departure(
        holder_id, where, item.id, item.name or item.id, master.id, master.name, names, asleep
    )
