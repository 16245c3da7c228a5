"""Items carried to another page, master or publication, with all that they refer to.

>>> clip = copied(publication, publication.sections[1].pages[0].items)
>>> publication, ids = pasted(publication, page, clip, dx=12, dy=12)
>>> [i.x for i in publication.sections[1].pages[0].items]
[60.0, 72.0]
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, NamedTuple, TypeVar

from msgspec import UNSET, Struct, UnsetType
from msgspec.structs import replace

from hidden_frame.edit.change import new_ids
from hidden_frame.edit.items.draw import add_item, copy_name, copy_on
from hidden_frame.edit.looks.colours import recoloured_item, recoloured_style, recoloured_text
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.text.restyle import (
    restyled,
    restyled_contents,
    restyled_index,
    restyled_notes,
)
from hidden_frame.model.items import TEXT_COLOURS, Item, Override, TextFrame
from hidden_frame.model.lookup import holder
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.paint import Colour, Layer
from hidden_frame.model.publication import Detail, Picture, Publication
from hidden_frame.model.styles import (
    CharacterStyle,
    ParagraphStyle,
    chain_of,
    computed_paragraphs,
)
from hidden_frame.model.text import Marker, Text
from hidden_frame.model.usage import anchors_in, head_styles_in, paragraph_styles_in

N = TypeVar("N", Colour, ParagraphStyle, CharacterStyle)
S = TypeVar("S", ParagraphStyle, CharacterStyle)


class Clip(Struct, frozen=True):
    """Items as they were seen on a page, and everything they refer to.

    `overrides` only go along with masters.
    """

    items: tuple[Item, ...]
    layers: tuple[Layer, ...] = ()
    colours: tuple[Colour, ...] = ()
    paragraph_styles: tuple[ParagraphStyle, ...] = ()
    character_styles: tuple[CharacterStyle, ...] = ()
    pictures: tuple[Picture, ...] = ()
    details: tuple[Detail, ...] = ()
    overrides: tuple[Override, ...] = ()


def copied(publication: Publication, items: Iterable[Item]) -> Clip:
    """A clip of items, in the coordinates of the page on which they are seen."""
    return clip_of(publication, [replace(i, face="both", placing="mirrored") for i in items])


def clip_of(
    publication: Publication, items: Iterable[Item], overrides: Iterable[Override] = ()
) -> Clip:
    """Items and overrides as they are, with everything they refer to."""
    taken, departing = tuple(items), tuple(overrides)
    things = (*taken, *departing)

    def values(name: str) -> list[Any]:
        found = (getattr(t, name, None) for t in things)
        return [v for v in found if v is not None and v is not UNSET]

    texts: list[Text] = values("text")
    pieces = [c for text in texts for p in text for c in p.content]
    paragraphs = {style for text in texts for style in paragraph_styles_in(text)}
    paragraphs |= set(values("text_style"))
    for contents in values("contents"):
        paragraphs |= {s for v in contents.levels for s in (v.style, v.shown)}
        paragraphs |= {contents.title_style} - {""}
    for index in values("index"):
        named = {index.shown, index.sub_shown, index.letters, index.title_style}
        paragraphs |= named - {""}
    for notes in values("notes"):
        paragraphs |= {notes.shown, notes.title_style} - {""}
    characters = {c.style for c in pieces if c.style}
    shown = {style for text in texts for style in head_styles_in(text)}
    paragraphs |= shown & {s.id for s in publication.paragraph_styles}
    characters |= shown & {s.id for s in publication.character_styles}
    styles = _with_bases(publication.paragraph_styles, paragraphs)
    characters |= {
        s.number.style for s in styles if isinstance(s.number, ListNumber) and s.number.style
    }
    looks = _with_bases(publication.character_styles, characters)
    computed = computed_paragraphs(publication.paragraph_styles)
    colours = {paint.colour for paint in values("fill") + values("stroke")}
    worn = [c.look for c in pieces if c.look is not None]
    dyed = [c for s in styles for c in (computed[s.id].colour, computed[s.id].on_dark)]
    dyed += [c for look in (*looks, *worn) for c in (look.colour, look.on_dark)]
    colours |= {colour for colour in dyed if colour is not None}
    colours |= {colour for name in TEXT_COLOURS for colour in values(name)}
    pictures = {
        *values("picture"),
        *values("picture_on_dark"),
        *(a.picture for t in texts for a in anchors_in(t)),
    }
    details = {c.detail for c in pieces if isinstance(c, Marker) and c.detail}
    layers = set(values("layer"))
    return Clip(
        taken,
        tuple(x for x in publication.layers if x.id in layers),
        tuple(c for c in publication.colours if c.id in colours),
        styles,
        looks,
        tuple(p for p in publication.pictures if p.hash in pictures),
        tuple(d for d in publication.details if d.name in details),
        departing,
    )


def pasted(
    publication: Publication, holder_id: str, clip: Clip, dx: float = 0.0, dy: float = 0.0
) -> tuple[Publication, list[str]]:
    """The clip's items on top of a page or master, moved, and their new ids (R24).

    What is equal to something of the publication is reused; a clash of names is
    resolved by a new name.  Layers are merged by name.
    """
    publication, terms = brought_in(publication, clip)
    groups: dict[str, str] = {}
    made: list[str] = []
    for item in map(terms.item, clip.items):
        if item.group is not None and item.group not in groups:
            publication, (groups[item.group],) = new_ids(publication, "group", 1)
        item = copy_on(publication, holder_id, item)
        name = copy_name(item.name, holder(publication, holder_id).items)
        item = replace(item, name=name)
        moved = replace(item, x=item.x + dx, y=item.y + dy, group=groups.get(item.group or ""))
        publication, item_id = add_item(publication, holder_id, moved)
        made.append(item_id)
    return publication, made


class Terms(NamedTuple):
    """What the publication calls the things that a clip refers to."""

    layers: dict[str, str]
    colours: dict[str, str]
    styles: dict[str, str]
    looks: dict[str, str]

    def _style(self, style: str) -> str:
        """A style of either kind: a running head shows one of both."""
        return self.styles.get(style) or self.looks.get(style, style)

    def text(self, old: Text) -> Text:
        renamed = tuple(
            replace(
                p,
                content=tuple(
                    c if c.style is None else replace(c, style=self.looks[c.style])
                    for c in p.content
                ),
            )
            for p in restyled(old, self._style)
        )
        return recoloured_text(renamed, self.colours.__getitem__)

    def item(self, old: Item) -> Item:
        """An item of the clip in the publication's terms."""
        new = recoloured_item(old, self.colours.__getitem__)
        new = replace(new, layer=self.layers[old.layer])
        if not isinstance(new, TextFrame):
            return new
        contents = new.contents
        if contents is not None:
            contents = replace(restyled_contents(contents, self._style), sections=())
        index = None if new.index is None else restyled_index(new.index, self._style)
        notes = None if new.notes is None else restyled_notes(new.notes, self._style)
        worn = None if new.text_style is None else self._style(new.text_style)
        return replace(
            new, text=self.text(new.text), contents=contents, index=index, notes=notes,
            text_style=worn,
        )  # fmt: skip

    def override(self, old: Override) -> Override:
        """The same for an override."""
        new = recoloured_item(old, self.colours.__getitem__)
        if not isinstance(old.layer, UnsetType):
            new = replace(new, layer=self.layers[old.layer])
        if isinstance(old.text_style, str):
            new = replace(new, text_style=self._style(old.text_style))
        return new if isinstance(old.text, UnsetType) else replace(new, text=self.text(old.text))


def brought_in(publication: Publication, clip: Clip) -> tuple[Publication, Terms]:
    """The publication with what the clip refers to, and what it is called there."""
    publication, layers = _layers(publication, clip.layers)
    colours, colour_of = _merged(publication.colours, clip.colours)
    paints = colour_of.__getitem__
    characters, look_of = _styles(publication.character_styles, clip.character_styles, paints)
    coming = tuple(_renumbered(s, look_of) for s in clip.paragraph_styles)
    paragraphs, style_of = _styles(publication.paragraph_styles, coming, paints)
    known = {d.name for d in publication.details}
    publication = replace(
        publication,
        colours=colours,
        paragraph_styles=paragraphs,
        character_styles=characters,
        details=(*publication.details, *(d for d in clip.details if d.name not in known)),
    )
    for picture in clip.pictures:
        publication = put_picture(publication, picture)
    return publication, Terms(layers, colour_of, style_of, look_of)


def _with_bases(styles: tuple[S, ...], wanted: Iterable[str]) -> tuple[S, ...]:
    """The styles of these ids, each behind the styles that it is based on."""
    taken = {s.id: s for style_id in sorted(wanted) for s in chain_of(styles, style_id)}
    order = {style.id: n for n, style in enumerate(styles)}
    depth = {i: len(chain_of(styles, i)) for i in taken}
    return tuple(sorted(taken.values(), key=lambda s: (depth[s.id], order[s.id])))


def _styles(
    there: tuple[S, ...], coming: tuple[S, ...], paints: Callable[[str], str]
) -> tuple[tuple[S, ...], dict[str, str]]:
    """Styles joined, each after its base, so that it is based on what that has become."""
    ids: dict[str, str] = {}
    for style in coming:
        style = recoloured_style(style, paints)
        changes: dict[str, object] = {}
        if style.based_on is not None:
            changes["based_on"] = ids[style.based_on]
        there, ids[style.id] = _joined(there, replace(style, **changes))
    return there, ids


def _renumbered(style: ParagraphStyle, look_of: dict[str, str]) -> ParagraphStyle:
    """A style whose numbers have their character style by its id here."""
    number = style.number
    if not isinstance(number, ListNumber) or number.style is None:
        return style
    return replace(style, number=replace(number, style=look_of[number.style]))


def _layers(
    publication: Publication, layers: Iterable[Layer]
) -> tuple[Publication, dict[str, str]]:
    """Layers merged by name; one that is missing is added on top."""
    result: dict[str, str] = {}
    for layer in layers:
        same = next((x for x in publication.layers if x.name == layer.name), None)
        if same is None:
            same = layer
            if any(x.id == layer.id for x in publication.layers):
                publication, (layer_id,) = new_ids(publication, "layer", 1)
                same = replace(layer, id=layer_id)
            publication = replace(publication, layers=(*publication.layers, same))
        result[layer.id] = same.id
    return publication, result


def _merged(there: tuple[N, ...], coming: Iterable[N]) -> tuple[tuple[N, ...], dict[str, str]]:
    """Named values joined: equal ones are one, others get ids and names of their own."""
    ids: dict[str, str] = {}
    for value in coming:
        there, ids[value.id] = _joined(there, value)
    return there, ids


def _joined(there: tuple[N, ...], value: N) -> tuple[tuple[N, ...], str]:
    """One value among others: the id of its equal, or of itself with a name of its own."""
    same = next((v for v in there if _equal(v, value)), None)
    if same is not None:
        return there, same.id
    taken = {v.id for v in there}
    name = free_name(value.name, (v.name for v in there))
    new = replace(value, id=_free(value.id, taken), name=name)
    return there + (new,), new.id  # noqa: RUF005 - keeps its type


def _equal(there: N, coming: N) -> bool:
    """Whether two values are the same but for their ids, and for a number that a clash of
    names gave to the one that is there."""
    if replace(there, id=coming.id, name=coming.name) != coming:
        return False
    base, _, number = there.name.rpartition(" ")
    return there.name == coming.name or (base == coming.name and number.isdecimal())


def _free(wanted: str, taken: set[str]) -> str:
    """An id as wanted, or with letters behind it: ids that end in a number are counted."""
    new: Callable[[int], str] = lambda n: f"{wanted}+{n}x"  # noqa: E731
    if wanted not in taken:
        return wanted
    return next(new(n) for n in range(2, len(taken) + 3) if new(n) not in taken)
