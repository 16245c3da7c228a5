"""Another trim, another bleed (R30): what becomes of what is there is chosen, and is one value.

>>> from hidden_frame.model.geometry import Size
>>> from hidden_frame.model.lookup import all_pages
>>> small = resize(publication, trim=Size(400.0, 560.0))
>>> small.setup.trim.width, all_pages(small)[0].id == all_pages(publication)[0].id
(400.0, True)
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal, get_args

from msgspec.structs import replace

from hidden_frame.edit.size.layout import relaid
from hidden_frame.edit.size.modes import Pages, items_followed, items_scaled, items_stayed
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import MAX_BLEED, MAX_TRIM, style_problems
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.units import format_length

Items = Literal["follow", "scale", "stay"]
LEAST_TRIM = 10.0  # points


def area_factor(old: Size, new: Size) -> float:
    """The factor by which things keep their share of the page's area: the root of both areas'
    quotient.  There and back it is 1, whatever the proportions.

    >>> area_factor(Size(400.0, 600.0), Size(200.0, 300.0))
    0.5
    """
    return math.sqrt(new.width * new.height / (old.width * old.height))


def resize(
    publication: Publication,
    trim: Size | None = None,
    bleed: float | None = None,
    items: Items = "follow",
    *,
    factor: float | None = None,
    type_too: bool = False,
    margins: Mapping[str, str] | None = None,
    pages: Pages = None,
) -> Publication:
    """The publication with another trim or bleed, in points.

    `items` says what becomes of everything that stands on pages and masters, of overrides too:

    - "follow": a thing keeps its distance to the edges, margins, columns and guides that it lies
      on or near to; what spans from one to another goes on spanning.
    - "scale": all by one `factor` (None: `area_factor`) about the middle of the page, margins and
      columns too, and with `type_too` letters and the widths of lines; what bleeds goes on
      bleeding.
    - "stay": everything keeps its distance to the spine and the head.

    Margins that follow a construction follow it in the new size; `margins` names another one, or
    "kept", for the publication ("") or for masters by their ids.  With `pages`, only those pages'
    own things move yet, as one looks at what would come of it.

    Nothing changes its master, its stack, its order.  Raises `Refusal` for a size that can't be.
    """
    old = publication.setup
    new = replace(old, trim=trim or old.trim, bleed=old.bleed if bleed is None else bleed)
    if new == old and not margins:
        return publication
    check_size(new)
    if items not in get_args(Items):
        raise Refusal(f"Items can follow, scale or stay; “{items}” is none of these.")
    if items == "scale":
        factor = area_factor(old.trim, new.trim) if factor is None else factor
        if not (math.isfinite(factor) and 0.01 <= factor <= 100):
            raise Refusal("Things can be scaled by 1 % to 10,000 %; give a factor in between.")
        resized = items_scaled(publication, new, factor, type_too, pages)
    elif items == "follow":
        resized = items_followed(publication, relaid(publication, new, margins), pages)
    else:
        resized = items_stayed(publication, new, pages)
    for problem in style_problems(resized):
        raise Refusal(problem)
    return resized


def check_size(setup: Setup) -> None:
    """Raises `Refusal` for a trim or a bleed that no page can have."""
    for word, length in (("width", setup.trim.width), ("height", setup.trim.height)):
        if not LEAST_TRIM <= length <= MAX_TRIM:
            least, most = (format_length(v, setup.unit) for v in (LEAST_TRIM, MAX_TRIM))
            said = format_length(length, setup.unit)
            raise Refusal(f"The {word} {said} is not a page’s; give one from {least} to {most}.")
    if not 0 <= setup.bleed <= MAX_BLEED:
        said, most = (format_length(v, setup.unit) for v in (setup.bleed, MAX_BLEED))
        raise Refusal(f"The bleed {said} can’t be; give one from 0 to {most}.")
