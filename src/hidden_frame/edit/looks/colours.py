"""Named colours: made, mixed, renamed, and replaced everywhere when one goes.

>>> publication, colour_id = add_colour(publication, "Moss", "rgb", (0.3, 0.4, 0.2))
>>> find_colour(publication, colour_id).name
'Moss'
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal, TypeVar

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.edit.change import change_texts, new_ids
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TEXT_COLOURS, Item, Override
from hidden_frame.model.lookup import holders
from hidden_frame.model.paint import Colour, Fill, Stroke
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle, own
from hidden_frame.model.text import Look, Piece, Text

Space = Literal["rgb", "cmyk", "spot"]
H = TypeVar("H", Page, Master)
S = TypeVar("S", ParagraphStyle, CharacterStyle)


def find_colour(publication: Publication, colour_id: str) -> Colour:
    for colour in publication.colours:
        if colour.id == colour_id:
            return colour
    raise Refusal(f"There is no colour “{colour_id}” in this publication.")


def add_colour(
    publication: Publication, name: str, space: Space, values: tuple[float, ...]
) -> tuple[Publication, str]:
    """A new colour under a name of its own, and its id."""
    publication, (colour_id,) = new_ids(publication, "colour", 1)
    clean = free_name(_clean(name), (c.name for c in publication.colours))
    made = _checked(Colour(id=colour_id, name=clean, space=space, values=values))
    return replace(publication, colours=(*publication.colours, made)), colour_id


def change_colour(publication: Publication, colour: Colour) -> Publication:
    """A colour with another name or other values, everywhere it is used."""
    named = _checked(replace(colour, name=_clean(colour.name)))
    if any(c.name == named.name and c.id != named.id for c in publication.colours):
        raise Refusal(
            f"There is already a colour “{named.name}”; choose another name.", field="name"
        )
    find_colour(publication, named.id)
    colours = tuple(named if c.id == named.id else c for c in publication.colours)
    return publication if colours == publication.colours else replace(publication, colours=colours)


def _clean(name: str) -> str:
    clean = " ".join(name.split())
    if not clean:
        raise Refusal("The colour has no name; give it one.", field="name")
    return clean


def _checked(colour: Colour) -> Colour:
    wanted = 3 if colour.space == "rgb" else 4
    if len(colour.values) != wanted or not all(0 <= v <= 1 for v in colour.values):
        raise Refusal(f"“{colour.name}” needs {wanted} shares from 0 to 100 %.", field="values")
    return colour


def mixed(one: Colour, other: Colour, share: float) -> tuple[Space, tuple[float, ...]]:
    """A mix of two colours, `share` (0 to 1) being the part of the other.

    Both in RGB are mixed in RGB, shares of CMYK and spot colours in CMYK; one of each
    is mixed in RGB, CMYK being taken by the plain formula without a profile.
    """
    if one.space != "rgb" and other.space != "rgb":
        return "cmyk", _between(one.values, other.values, share)
    return "rgb", _between(in_rgb(one), in_rgb(other), share)


def _between(a: Sequence[float], b: Sequence[float], share: float) -> tuple[float, ...]:
    return tuple(x + (y - x) * share for x, y in zip(a, b, strict=True))


def rgb_of_cmyk(shares: Sequence[float]) -> tuple[float, float, float]:
    """Three RGB shares of four CMYK ones by the plain formula, without a profile."""
    c, m, y, k = shares
    return (1 - c) * (1 - k), (1 - m) * (1 - k), (1 - y) * (1 - k)


def in_rgb(colour: Colour) -> tuple[float, ...]:
    """A colour's RGB shares, for the screen."""
    return colour.values if colour.space == "rgb" else rgb_of_cmyk(colour.values)


def filled_with(before: Fill | None, colour_id: str | None) -> Fill | None:
    """A fill in another colour, tint and opacity as before; None takes it away."""
    if colour_id is None:
        return None
    return Fill(colour_id) if before is None else replace(before, colour=colour_id)


def stroked_with(before: Stroke | None, colour_id: str | None) -> Stroke | None:
    """A stroke in another colour, otherwise as before; a new one is a point wide."""
    if colour_id is None:
        return None
    new = before or Stroke(colour=colour_id, width=1.0)
    return replace(new, colour=colour_id)


def check_dark(publication: Publication, colour_id: str | None, on_dark: str | None) -> None:
    """Raises `Refusal` where words are to take a colour on dark ground that they have anyway."""
    if on_dark is not None and on_dark == colour_id:
        name = find_colour(publication, on_dark).name
        raise Refusal(
            f"“{name}” is what these words have on light ground, too; choose another colour for "
            "dark ground.",
            field="on_dark",
        )


def in_cmyk(colour: Colour) -> tuple[float, ...]:
    """A colour's CMYK shares by the plain formula, all grey taken by black."""
    if colour.space != "rgb":
        return colour.values
    k = 1 - max(colour.values)
    if k >= 1:
        return (0.0, 0.0, 0.0, 1.0)
    red, green, blue = ((1 - v - k) / (1 - k) for v in colour.values)
    return red, green, blue, k


def uses(publication: Publication, colour_id: str) -> int:
    """How many items, overrides and styles use a colour."""
    count = sum(own(s, "colour") == colour_id for s in publication.paragraph_styles)
    count += sum(s.colour == colour_id for s in publication.character_styles)
    count += sum(own(s, "on_dark") == colour_id for s in publication.paragraph_styles)
    count += sum(s.on_dark == colour_id for s in publication.character_styles)
    for owner in holders(publication):
        for each in (*owner.items, *owner.overrides):
            painted = [each.fill, each.stroke]
            used = any(isinstance(p, Fill | Stroke) and p.colour == colour_id for p in painted)
            used = used or any(getattr(each, n, None) == colour_id for n in TEXT_COLOURS)
            count += used or _in_text(getattr(each, "text", ()), colour_id)
    return count


def _in_text(text: object, colour_id: str) -> bool:
    if not isinstance(text, tuple):
        return False
    pieces: list[Piece] = [piece for paragraph in text for piece in paragraph.content]
    return any(p.look is not None and colour_id in (p.look.colour, p.look.on_dark) for p in pieces)


def delete_colour(publication: Publication, colour_id: str, instead: str) -> Publication:
    """The publication without a colour; what used it takes another one instead."""
    gone = find_colour(publication, colour_id)
    if instead == colour_id or len(publication.colours) == 1:
        raise Refusal(
            f"“{gone.name}” can't take its own place; choose another colour.", field="instead"
        )
    find_colour(publication, instead)

    def new(colour: str) -> str:
        return instead if colour == colour_id else colour

    changed = recoloured(publication, new)
    kept = tuple(c for c in changed.colours if c.id != colour_id)
    return replace(changed, colours=kept)


def recoloured(publication: Publication, new: Callable[[str], str]) -> Publication:
    """Every mention of a colour exchanged; the list of colours stays."""

    def style(old: S) -> S:
        return recoloured_style(old, new)

    def owner(old: H) -> H:
        items = tuple(recoloured_item(i, new) for i in old.items)
        overrides = tuple(recoloured_item(o, new) for o in old.overrides)
        if items == old.items and overrides == old.overrides:
            return old
        return replace(old, items=items, overrides=overrides)

    sections = tuple(
        replace(s, pages=tuple(owner(p) for p in s.pages)) for s in publication.sections
    )
    changed = replace(
        publication,
        paragraph_styles=tuple(style(s) for s in publication.paragraph_styles),
        character_styles=tuple(style(s) for s in publication.character_styles),
        masters=tuple(owner(m) for m in publication.masters),
        sections=sections,
    )
    return change_texts(changed, lambda text: recoloured_text(text, new))


def recoloured_style(style: S, new: Callable[[str], str]) -> S:
    """A style whose colours are others; itself if none is."""
    changes = {}
    for name in ("colour", "on_dark"):
        colour = own(style, name)
        if isinstance(colour, str) and new(colour) != colour:
            changes[name] = new(colour)
    return replace(style, **changes) if changes else style


P = TypeVar("P", Item, Override)


def recoloured_item(each: P, new: Callable[[str], str]) -> P:
    """An item or override whose fill and stroke, and what its words wear, take other colours;
    texts are left as they are."""
    changes: dict[str, object] = {}
    for name in TEXT_COLOURS:
        colour = getattr(each, name, None)
        if isinstance(colour, str) and new(colour) != colour:
            changes[name] = new(colour)
    for name in ("fill", "stroke"):
        paint = getattr(each, name)
        if isinstance(paint, UnsetType) or paint is None or new(paint.colour) == paint.colour:
            continue
        changes[name] = replace(paint, colour=new(paint.colour))
    return replace(each, **changes) if changes else each


def recoloured_text(text: Text, new: Callable[[str], str]) -> Text:
    """A text whose single looks take other colours; the same object if none does."""

    def look(old: Look | None) -> Look | None:
        if old is None:
            return None
        named = {n: getattr(old, n) for n in ("colour", "on_dark")}
        changes = {n: new(c) for n, c in named.items() if c is not None and new(c) != c}
        return replace(old, **changes) if changes else old

    if all(look(c.look) is c.look for p in text for c in p.content):
        return text
    return tuple(
        replace(p, content=tuple(replace(c, look=look(c.look)) for c in p.content)) for p in text
    )
