"""Another trim, another bleed (R30): what becomes of what is there is chosen, and is one value.

>>> from hidden_frame.model.geometry import Size
>>> from hidden_frame.model.lookup import all_pages
>>> small = resize(publication, trim=Size(400.0, 560.0))
>>> small.setup.trim.width, all_pages(small)[0].id == all_pages(publication)[0].id
(400.0, True)
"""

from __future__ import annotations

import math
from collections.abc import Generator, Iterable, Mapping
from typing import Literal, NamedTuple, get_args

from msgspec.structs import replace

from hidden_frame.edit.change import change_pages
from hidden_frame.edit.size.layout import relaid
from hidden_frame.edit.size.modes import SizeBegun, items_followed, items_scaled, items_stayed
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import MAX_BLEED, MAX_TRIM, style_problems
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.slices import at_once
from hidden_frame.model.units import format_length

Items = Literal["follow", "scale", "stay"]
LEAST_TRIM = 10.0  # points
_AT_A_TIME = 50  # pages


def area_factor(old: Size, new: Size) -> float:
    """The factor by which things keep their share of the page's area: the root of both areas'
    quotient.  There and back it is 1, whatever the proportions.

    >>> area_factor(Size(400.0, 600.0), Size(200.0, 300.0))
    0.5
    """
    return math.sqrt(new.width * new.height / (old.width * old.height))


class NewSize(NamedTuple):
    """Another trim or bleed (points; None: as it is), and what becomes of what is there.

    `items` says what becomes of everything that stands on pages and masters, of overrides too:

    - "follow": a thing keeps its distance to the edges, margins, columns and guides that it lies
      on or near to; what spans from one to another goes on spanning.
    - "scale": all by one `factor` (None: `area_factor`) about the middle of the page, margins and
      columns too, and with `type_too` letters and the widths of lines; what bleeds goes on
      bleeding.
    - "stay": everything keeps its distance to the spine and the head.

    Margins that follow a construction follow it in the new size; `margins` names another one, or
    "kept", for the publication ("") or for masters by their ids.
    """

    trim: Size | None = None
    bleed: float | None = None
    items: Items = "follow"
    factor: float | None = None
    type_too: bool = False
    margins: Mapping[str, str] = {}


def resize(
    publication: Publication,
    trim: Size | None = None,
    bleed: float | None = None,
    items: Items = "follow",
    *,
    factor: float | None = None,
    type_too: bool = False,
    margins: Mapping[str, str] | None = None,
) -> Publication:
    """The publication with another trim or bleed; what the arguments mean says `NewSize`.

    Nothing changes its master, its stack, its order.  Raises `Refusal` for a size that can't be.
    """
    size = NewSize(trim, bleed, items, factor, type_too, margins or {})
    return at_once(resizing(publication, size))


def resizing(publication: Publication, size: NewSize) -> Generator[Publication, None, Publication]:
    """The same a few pages at a time: what there is so far, again and again; in the end all."""
    begun = _begun(publication, size)
    made = begun.made
    pages = [p.id for s in made.sections for p in s.pages if p.items or p.overrides]
    for start in range(0, len(pages), _AT_A_TIME):
        yield made
        made = change_pages(made, set(pages[start : start + _AT_A_TIME]), begun.page)
    return made


def resize_pages(publication: Publication, size: NewSize, pages: Iterable[str]) -> Publication:
    """Layouts and masters in the new size, and of the pages some alone, as one looks at what would
    come of it."""
    begun = _begun(publication, size)
    return change_pages(begun.made, set(pages), begun.page)


def _begun(publication: Publication, size: NewSize) -> SizeBegun:
    """Layouts and masters in the new size, and what is to be done with pages."""
    old, bleed, items = publication.setup, size.bleed, size.items
    new = replace(old, trim=size.trim or old.trim, bleed=old.bleed if bleed is None else bleed)
    if new == old and not size.margins:
        return SizeBegun(publication, lambda same: same)
    check_size(new)
    if items not in get_args(Items):
        raise Refusal(
            f"Items can follow, scale or stay; “{items}” is none of these.", field="items"
        )
    if items == "scale":
        factor = area_factor(old.trim, new.trim) if size.factor is None else size.factor
        if not (math.isfinite(factor) and 0.01 <= factor <= 100):
            raise Refusal(
                "The factor is one from 1 % to 10,000 %; give one in between.", field="factor"
            )
        begun = items_scaled(publication, new, factor, size.type_too)
    elif items == "follow":
        begun = items_followed(publication, relaid(publication, new, size.margins))
    else:
        begun = items_stayed(publication, new)
    for problem in style_problems(begun.made):
        raise Refusal(problem)
    return begun


def check_size(setup: Setup) -> None:
    """Raises `Refusal` for a trim or a bleed that no page can have."""
    for word, length in (("Width", setup.trim.width), ("Height", setup.trim.height)):
        if not LEAST_TRIM <= length <= MAX_TRIM:
            least, most = (format_length(v, setup.unit) for v in (LEAST_TRIM, MAX_TRIM))
            said = format_length(length, setup.unit)
            raise Refusal(
                f"{word} {said} is not a page’s; give one from {least} to {most}.",
                field=word.lower(),
            )
    if not 0 <= setup.bleed <= MAX_BLEED:
        said, most = (format_length(v, setup.unit) for v in (setup.bleed, MAX_BLEED))
        raise Refusal(f"Bleed {said} can’t be; give one from 0 to {most}.", field="bleed")
