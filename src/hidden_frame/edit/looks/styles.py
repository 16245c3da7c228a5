"""Styles made, changed, based on each other and deleted; colours and pictures put in."""

from __future__ import annotations

from collections import Counter
from typing import Any, TypeVar

from msgspec import UNSET
from msgspec.structs import replace

from hidden_frame.edit.change import change_every_holder, change_lists, change_texts, new_ids
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.text.restyle import (
    restyled,
    restyled_contents,
    restyled_index,
    restyled_notes,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, Override
from hidden_frame.model.lookup import character_style, holders, paragraph_style
from hidden_frame.model.memory import remembered
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.paint import Colour
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Master, Page, Picture, Publication
from hidden_frame.model.styles import (
    CHARACTER_PROPERTIES,
    PROPERTIES,
    CharacterStyle,
    ComputedStyle,
    ParagraphStyle,
    computed_characters,
    computed_style,
)
from hidden_frame.model.text import Text
from hidden_frame.model.usage import head_styles_in, paragraph_styles_in, texts_of

E = TypeVar("E", Item, Override)
S = TypeVar("S", ParagraphStyle, CharacterStyle)


def _put(values: tuple, new: object) -> tuple:
    """The tuple with the value of the same id exchanged, or the new one added."""
    wanted = new.id  # type: ignore[attr-defined]
    if any(v.id == wanted for v in values):
        return tuple(new if v.id == wanted else v for v in values)
    return (*values, new)


def put_paragraph_style(publication: Publication, style: ParagraphStyle) -> Publication:
    """A paragraph style added, or changed everywhere it is used."""
    styles = _put(publication.paragraph_styles, style)
    return replace(publication, paragraph_styles=styles)


def put_character_style(publication: Publication, style: CharacterStyle) -> Publication:
    """A character style added, or changed everywhere it is used."""
    styles = _put(publication.character_styles, style)
    return replace(publication, character_styles=styles)


def put_colour(publication: Publication, colour: Colour) -> Publication:
    """A colour added, or changed everywhere it is used."""
    return replace(publication, colours=_put(publication.colours, colour))


def put_picture(publication: Publication, picture: Picture) -> Publication:
    """A picture known to the publication; one with equal bytes is reused."""
    if any(p.hash == picture.hash for p in publication.pictures):
        return publication
    return replace(publication, pictures=(*publication.pictures, picture))


def restated(
    publication: Publication,
    wanted: ComputedStyle,
    based_on: str | None,
    following: frozenset[str] = frozenset(),
) -> ParagraphStyle:
    """The style of `wanted.id` so that it comes out as `wanted`, on this base.

    It says only what differs from the base; what it said itself and is still wanted stays said,
    even where the base says the same by now, unless it is among those `following`.
    """
    before = paragraph_style(publication, wanted.id)
    base = ComputedStyle(id="", name="-")
    if based_on is not None:
        base = computed_style(publication.paragraph_styles, based_on)
    values: dict[str, Any] = {}
    for name in PROPERTIES:
        value, said = getattr(wanted, name), getattr(before, name)
        kept = before.based_on == based_on and said == value and name not in following
        values[name] = value if kept or value != getattr(base, name) else UNSET
    return ParagraphStyle(id=before.id, name=wanted.name, based_on=based_on, **values)


def restated_character(
    publication: Publication, wanted: CharacterStyle, based_on: str | None
) -> CharacterStyle:
    """The same for a character style, of which None says nothing.

    On a base that says something, nothing can't be wanted: such a property follows the base.
    """
    before = character_style(publication, wanted.id)
    base = computed_characters(publication.character_styles).get(based_on or "")
    values: dict[str, Any] = {}
    for name in CHARACTER_PROPERTIES:
        value, said = getattr(wanted, name), getattr(before, name)
        kept = before.based_on == based_on and said == value
        values[name] = value if kept or value != getattr(base, name, None) else None
    return CharacterStyle(id=before.id, name=wanted.name, based_on=based_on, **values)


def new_paragraph_style(
    publication: Publication, like: str, based: bool = False
) -> tuple[Publication, str]:
    """A new style that comes out as another one, under a name of its own; and its id.

    It says the same as that one, or is based on it and says nothing itself.
    """
    style = paragraph_style(publication, like)
    publication, (style_id,) = new_ids(publication, "style", 1)
    name = free_name(style.name, (s.name for s in publication.paragraph_styles))
    if based:
        return put_paragraph_style(
            publication, ParagraphStyle(id=style_id, name=name, based_on=like)
        ), style_id
    return put_paragraph_style(publication, replace(style, id=style_id, name=name)), style_id


def new_character_style(
    publication: Publication, like: str | None, based: bool = False
) -> tuple[Publication, str]:
    """The same for a character style; one that is like no other says nothing yet."""
    publication, (style_id,) = new_ids(publication, "style", 1)
    taken = [s.name for s in publication.character_styles]
    if like is None:
        style = CharacterStyle(id=style_id, name=free_name("Character style", taken))
        return put_character_style(publication, style), style_id
    style = character_style(publication, like)
    name = free_name(style.name, taken)
    if based:
        style = CharacterStyle(id=style_id, name=name, based_on=like)
    return put_character_style(publication, replace(style, id=style_id, name=name)), style_id


def style_uses(publication: Publication, style_id: str) -> int:
    """How many paragraphs, runs and markers are set in a style; overridden texts count too."""
    count = 0
    for _, text in texts_of(publication):
        count += sum(used == style_id for used in paragraph_styles_in(text))
        for paragraph in text:
            count += sum(piece.style == style_id for piece in paragraph.content)
    for holder in holders(publication):
        worn = (getattr(each, "text_style", None) for each in (*holder.items, *holder.overrides))
        count += sum(style == style_id for style in worn)
    return count


def uses_of_styles(publication: Publication) -> Counter[str]:
    """How often each style is used, as `style_uses` counts, in one walk.

    >>> uses_of_styles(publication)["body"] == style_uses(publication, "body")
    True
    """
    counts: Counter[str] = Counter()
    for _, text in texts_of(publication):
        counts.update(_uses_in(text))
    for holder in holders(publication):
        for each in (*holder.items, *holder.overrides):
            worn = getattr(each, "text_style", None)
            if isinstance(worn, str):
                counts[worn] += 1
    return counts


@remembered()
def _uses_in(text: Text) -> Counter[str]:
    counts = Counter(paragraph_styles_in(text))
    for paragraph in text:
        counts.update(piece.style for piece in paragraph.content if piece.style is not None)
    return counts


def move_paragraph_style(
    publication: Publication, style_id: str, before: str | None
) -> Publication:
    """A paragraph style at another place of the list: before a style, or at the end."""
    styles = _moved(publication.paragraph_styles, style_id, before)
    return replace(publication, paragraph_styles=styles)


def move_character_style(
    publication: Publication, style_id: str, before: str | None
) -> Publication:
    """A character style at another place of the list: before a style, or at the end."""
    styles = _moved(publication.character_styles, style_id, before)
    return replace(publication, character_styles=styles)


def _moved(styles: tuple[S, ...], style_id: str, before: str | None) -> tuple[S, ...]:
    moved = tuple(s for s in styles if s.id == style_id)
    rest = tuple(s for s in styles if s.id != style_id)
    at = next((n for n, s in enumerate(rest) if s.id == before), len(rest))
    return rest[:at] + moved + rest[at:]


def uses_in_words(publication: Publication, style_id: str) -> str:
    """“Used 12 times; Head and Foot are based on it”: what a change of a style changes."""
    count = style_uses(publication, style_id)
    told = plural(count, "Used once", "Used {n} times") if count else "Not used yet"
    both: list[ParagraphStyle | CharacterStyle] = [*publication.paragraph_styles]
    both += publication.character_styles
    heirs = [style.name for style in both if style.based_on == style_id]
    if not heirs:
        return told
    names = f"{', '.join(heirs[:3])} and {len(heirs) - 3} more" if len(heirs) > 3 else (
        " and ".join([", ".join(heirs[:-1]), heirs[-1]] if len(heirs) > 1 else heirs)
    )  # fmt: skip
    return f"{told}; {names} {'is' if len(heirs) == 1 else 'are'} based on it"


def delete_paragraph_style(publication: Publication, style_id: str, instead: str) -> Publication:
    """Without a paragraph style; its paragraphs take another one, and styles that are based on
    it look as before."""
    gone = paragraph_style(publication, style_id)
    if instead == style_id or len(publication.paragraph_styles) == 1:
        raise Refusal(
            f"“{gone.name}” can't take its own place; choose another style.", field="instead"
        )
    paragraph_style(publication, instead)
    for style in publication.paragraph_styles:
        if style.based_on == style_id:
            wanted = computed_style(publication.paragraph_styles, style.id)
            free = restated(publication, wanted, gone.based_on)
            publication = put_paragraph_style(publication, free)
    kept = tuple(s for s in publication.paragraph_styles if s.id != style_id)

    def text(old: Text) -> Text:
        if style_id not in paragraph_styles_in(old) and style_id not in head_styles_in(old):
            return old
        return restyled(old, lambda style: instead if style == style_id else style)

    def other(style: str) -> str:
        return instead if style == style_id else style

    publication = change_lists(
        publication,
        lambda contents: restyled_contents(contents, other),
        lambda index: restyled_index(index, other),
        lambda notes: restyled_notes(notes, other),
    )
    rules = tuple(
        replace(r, style=instead) if r.style == style_id else r for r in publication.rules
    )
    publication = change_every_holder(publication, lambda h: _worn(h, style_id, instead))
    return replace(change_texts(publication, text), paragraph_styles=kept, rules=rules)


def _worn(holder: Page | Master, style_id: str, instead: str) -> Page | Master:
    """A page or master whose frames' words wear another style in place of one that goes."""

    def other(each: E) -> E:
        worn = getattr(each, "text_style", None) == style_id
        return replace(each, text_style=instead) if worn else each

    items, overrides = tuple(map(other, holder.items)), tuple(map(other, holder.overrides))
    if items == holder.items and overrides == holder.overrides:
        return holder
    return replace(holder, items=items, overrides=overrides)


def delete_character_style(
    publication: Publication, style_id: str, instead: str | None
) -> Publication:
    """Without a character style; what was set in it takes another one, or none."""
    gone = character_style(publication, style_id)
    if instead is not None:
        character_style(publication, instead)
    if instead == style_id:
        raise Refusal(f"“{gone.name}” can't take its own place; choose another style.")
    computed = computed_characters(publication.character_styles)
    for style in publication.character_styles:
        if style.based_on == style_id:
            free = restated_character(publication, computed[style.id], gone.based_on)
            publication = put_character_style(publication, free)
    for numbered in publication.paragraph_styles:
        if isinstance(numbered.number, ListNumber) and numbered.number.style == style_id:
            number = replace(numbered.number, style=instead)
            publication = put_paragraph_style(publication, replace(numbered, number=number))
    kept = tuple(s for s in publication.character_styles if s.id != style_id)

    def text(old: Text) -> Text:
        if all(c.style != style_id for p in old for c in p.content):
            return old
        return tuple(
            replace(
                p,
                content=tuple(
                    replace(c, style=instead) if c.style == style_id else c for c in p.content
                ),
            )
            for p in old
        )

    return replace(change_texts(publication, text), character_styles=kept)
