"""What is true of every publication; checked at the edge, when a file is opened.

>>> problems(publication)
[]
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator
from typing import TypeVar

from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins
from hidden_frame.model.items import (
    PICTURES,
    TEXT_COLOURS,
    Item,
    Override,
    TextFrame,
    changed_properties,
    overridable,
)
from hidden_frame.model.lookup import all_pages, holders, masters_by_id, positions
from hidden_frame.model.number_format import figure
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import MAX_PAGES, Master, Page, Publication, Setup
from hidden_frame.model.same import same_ends
from hidden_frame.model.stories import Story
from hidden_frame.model.styles import (
    CharacterStyle,
    ComputedStyle,
    ParagraphStyle,
    chain_of,
    computed_paragraphs,
)
from hidden_frame.model.text import Anchor, Contents, Index, NoteList, Text

S = TypeVar("S", ParagraphStyle, CharacterStyle)
MAX_TRIM = 14_400.0  # points; the largest page of a PDF, ISO 32000-1 Annex C
MAX_BLEED = 720.0  # points


def check(publication: Publication) -> Publication:
    """The publication itself, or a `Refusal` that names the first broken invariant."""
    for problem in _problems(publication):
        raise Refusal(problem)
    return publication


def problems(publication: Publication) -> list[str]:
    """One sentence for each broken invariant, each naming its place."""
    return list(_problems(publication))


class _Known:
    """The ids that may be referred to."""

    def __init__(self, publication: Publication) -> None:
        self.colours = {c.id for c in publication.colours}
        self.layers = {layer.id for layer in publication.layers}
        self.pictures = {p.hash for p in publication.pictures}
        self.paragraphs = {s.id for s in publication.paragraph_styles}
        self.characters = {s.id for s in publication.character_styles}
        self.masters = set(masters_by_id(publication))
        self.items: dict[str, Item] = {i.id: i for m in publication.masters for i in m.items}


def _problems(publication: Publication) -> Iterator[str]:
    known = _Known(publication)
    yield from _counts(publication)
    yield from _ids(publication)
    yield from _setup(publication)
    yield from _styles(publication, known)
    for master in publication.masters:
        yield from _holder(master, f"master “{master.name}”", known)
        yield from _bases(publication, master)
    yield from story_problems(publication)
    for section in publication.sections:
        yield from _stack(section.masters or (), f"section “{section.name}”", known)
    yield from _rules(publication, known)
    yield from _stack(publication.default_masters, "the publication's default masters", known)
    for position, page in enumerate(all_pages(publication), 1):
        yield from _holder(page, f"page #{position}", known)
        yield from _stack(page.masters or page.ruled or (), f"page #{position}", known)


def holder_problems(
    publication: Publication, owners: Iterable[Page | Master], sound: frozenset[int] = frozenset()
) -> Iterator[str]:
    """What is wrong with some pages and masters, each in a sentence.

    `sound` are identities (`id()`) of items that were looked at before, while nothing that
    they refer to has gone since.
    """
    known, places = _Known(publication), positions(publication)
    for one in owners:
        if isinstance(one, Master):
            place = f"master “{one.name}”"
            yield from _bases(publication, one)
            yield from _holder(one, place, known, sound)
            if one.margins is not None:
                yield from _margins(one.margins, place, publication.setup)
        else:
            position = places.get(one.id, 0)
            yield from _stack(one.masters or one.ruled or (), f"page #{position}", known)
            yield from _holder(one, f"page #{position}", known, sound)


def style_problems(publication: Publication) -> Iterator[str]:
    """The same for the setup, styles and sections."""
    known = _Known(publication)
    yield from _counts(publication)
    yield from _setup(publication)
    yield from _styles(publication, known)
    for section in publication.sections:
        yield from _stack(section.masters or (), f"section “{section.name}”", known)
    yield from _rules(publication, known)
    yield from _stack(publication.default_masters, "the publication's default masters", known)


def _rules(publication: Publication, known: _Known) -> Iterator[str]:
    for number, rule in enumerate(publication.rules, 1):
        yield from _stack(rule.masters, f"rule {number} for masters", known)
        if rule.when == "style" and rule.style not in known.paragraphs:
            yield f"Rule {number} for masters names a paragraph style that does not exist."


def story_problems(publication: Publication, before: Publication | None = None) -> Iterator[str]:
    """The same for stories; what stood in them `before` was looked at then."""
    known = _Known(publication)
    earlier = {s.id: s for s in before.stories} if before is not None else {}
    stations: Counter[object] = Counter()
    for story in publication.stories:
        stations.update(story.path)
        fresh = fresh_paragraphs(story, earlier.get(story.id))
        yield from _text(fresh, f"story “{story.name}”", known)
        yield from _lists(story.contents, story.index, story.notes, f"story “{story.name}”", known)
        if any(w.picture not in known.pictures for w in story.waiting):
            yield f"In story “{story.name}”: a picture of its tray is not the publication's."
    if any(times > 1 for times in stations.values()):
        yield "A frame or section belongs to two stories; it can show only one."


def fresh_paragraphs(story: Story, old: Story | None) -> Text:
    """The paragraphs of a story between those that are the same as they were."""
    if old is None:
        return story.text
    head, foot = same_ends(old.text, story.text)
    return story.text[head : len(story.text) - foot]


def id_problems(publication: Publication) -> Iterator[str]:
    """The same for ids, each of which stands for one thing."""
    yield from _counts(publication)
    yield from _ids(publication)


def _counts(publication: Publication) -> Iterator[str]:
    count = len(all_pages(publication))
    if not publication.sections or not count:
        yield "The publication has no page; it needs at least one."
    if count > MAX_PAGES:
        yield f"The publication has {count} pages; the limit is {MAX_PAGES}."
    if not publication.layers:
        yield "The publication has no layer; it needs at least one."


def _ids(publication: Publication) -> Iterator[str]:
    made = [m.id for m in publication.masters] + [s.id for s in publication.sections]
    for owner in holders(publication):
        made += [item.id for item in owner.items]
    made += [p.id for p in all_pages(publication)]
    made += [s.id for s in publication.stories]
    made += [r.id for r in publication.rules]
    yield from _twice("id", made)
    yield from named_problems(publication)
    for name in made:
        tail = name.rpartition("-")[2]
        if tail.isdecimal() and int(tail) >= publication.next_id:
            yield f"The id “{name}” is not below next_id ({publication.next_id})."


def named_problems(publication: Publication) -> Iterator[str]:
    """The same for the ids of what items refer to: layers, colours, styles, pictures, details."""
    named = (
        ("layer", [x.id for x in publication.layers]),
        ("colour", [x.id for x in publication.colours]),
        ("paragraph style", [x.id for x in publication.paragraph_styles]),
        ("character style", [x.id for x in publication.character_styles]),
        ("picture", [x.hash for x in publication.pictures]),
        ("detail", [x.name for x in publication.details]),
    )
    for word, ids in named:
        yield from _twice(word, ids)


def _twice(word: str, ids: list[str]) -> Iterator[str]:
    for name, times in Counter(ids).items():
        if times > 1:
            yield f"The {word} “{name}” is used for {times} things; each must be its own."


def _setup(publication: Publication) -> Iterator[str]:
    setup = publication.setup
    for word, length in (("width", setup.trim.width), ("height", setup.trim.height)):
        if not 10 <= length <= MAX_TRIM:
            most = figure(MAX_TRIM)
            yield f"The trim {word} is {figure(length)} pt; it must be between 10 and {most} pt."
    if setup.bleed > MAX_BLEED:
        yield f"The bleed is {figure(setup.bleed)} pt; it must be at most {figure(MAX_BLEED)} pt."
    sets = [("the publication", setup.margins)]
    sets += [(f"master “{m.name}”", m.margins) for m in publication.masters if m.margins]
    for place, margins in sets:
        yield from _margins(margins, place, setup)


def _margins(margins: Margins, place: str, setup: Setup) -> Iterator[str]:
    across = margins.inside + margins.outside < setup.trim.width
    down = margins.top + margins.bottom < setup.trim.height
    if not (across and down):
        yield f"The margins of {place} leave no room on the page; make them smaller."


def _styles(publication: Publication, known: _Known) -> Iterator[str]:
    if not publication.paragraph_styles:
        yield "The publication has no paragraph style; it needs at least one."
    for colour in publication.colours:
        wanted = 3 if colour.space == "rgb" else 4
        if len(colour.values) != wanted:
            yield f"The colour “{colour.name}” needs {wanted} values, not {len(colour.values)}."
    yield from _style_bases(publication.paragraph_styles)
    yield from _style_bases(publication.character_styles)
    computed = computed_paragraphs(publication.paragraph_styles).values()
    styles: list[ComputedStyle | CharacterStyle] = [*computed, *publication.character_styles]
    for style in styles:
        if style.colour is not None and style.colour not in known.colours:
            yield f"The style “{style.name}” uses a colour “{style.colour}” that does not exist."
    for named in styles:
        if named.on_dark is not None and named.on_dark not in known.colours:
            yield f"The style “{named.name}” has a colour for dark ground that does not exist."
    characters = {c.id for c in publication.character_styles}
    for each in computed:
        if each.number is not None and each.number.style not in (None, *characters):
            yield f"The numbers of “{each.name}” have a character style that does not exist."


def _style_bases(styles: tuple[S, ...]) -> Iterator[str]:
    known = {s.id: s for s in styles}
    for style in styles:
        if style.based_on is not None and style.based_on not in known:
            yield f"The style “{style.name}” is based on “{style.based_on}”, which does not exist."
        chain = chain_of(styles, style.id)
        if chain[0].based_on in {s.id for s in chain}:
            names = " → ".join(s.name for s in reversed(chain))
            yield f"The styles are based on each other in a circle: {names}."


def _bases(publication: Publication, master: Master) -> Iterator[str]:
    known, seen, at = masters_by_id(publication), [master.id], master.base
    while at is not None:
        if at not in known:
            yield f"The master “{master.name}” builds on “{at}”, which does not exist."
            return
        if at in seen:
            names = " → ".join(known[i].name for i in [*seen, at])
            yield f"The masters build on each other in a circle: {names}."
            return
        seen.append(at)
        at = known[at].base


def _stack(stack: tuple[str, ...], place: str, known: _Known) -> Iterator[str]:
    for master_id in stack:
        if master_id not in known.masters:
            yield f"On {place}: the master “{master_id}” does not exist."
    if len(set(stack)) != len(stack):
        yield f"On {place}: a master stands twice in the stack."


def _holder(
    holder: Page | Master, place: str, known: _Known, sound: frozenset[int] = frozenset()
) -> Iterator[str]:
    for item in holder.items:
        if id(item) in sound:
            continue
        yield from _item(item, f"{place}, item “{item.name or item.id}”", known)
    own = {item.id for item in holder.items}
    for item_id, times in Counter(o.item for o in holder.overrides).items():
        if times > 1:
            yield f"On {place}: the item “{item_id}” is overridden twice."
    for override in holder.overrides:
        if override.item in own:
            yield f"On {place}: an override names the item “{override.item}”, not a master's."
            continue
        yield from _override(override, place, known)


def _override(override: Override, place: str, known: _Known) -> Iterator[str]:
    changes = changed_properties(override)
    item = known.items.get(override.item)
    if item is None:  # its item is gone: it sleeps (R11), and is kept
        yield from _values(changes, f"{place}, override of “{override.item}”", known)
        return
    where = f"{place}, override of “{item.name or item.id}”"
    for name in changes:
        if name not in overridable(type(item)):
            yield f"On {where}: this kind of item has no {name}."
    yield from _values(changes, where, known)


def _lists(
    contents: Contents | None,
    index: Index | None,
    notes: NoteList | None,
    place: str,
    known: _Known,
) -> Iterator[str]:
    styles = [s for v in contents.levels for s in (v.style, v.shown)] if contents else []
    styles += [contents.title_style] if contents and contents.title_style else []
    if index is not None:
        named = (index.shown, index.sub_shown, index.letters, index.title_style)
        styles += [style for style in named if style]
    if notes is not None:
        styles += [style for style in (notes.shown, notes.title_style) if style]
    for style in dict.fromkeys(styles):
        if style not in known.paragraphs:
            yield f"On {place}: its list names the style “{style}”, which does not exist."


def _item(item: Item, place: str, known: _Known) -> Iterator[str]:
    if isinstance(item, TextFrame):
        yield from _lists(item.contents, item.index, item.notes, place, known)
    names = overridable(type(item))
    yield from _values({name: getattr(item, name) for name in names}, place, known)


def _values(values: dict[str, object], place: str, known: _Known) -> Iterator[str]:
    for name, value in values.items():
        number = value if isinstance(value, float | int) else 0
        if not (math.isfinite(number) and abs(number) < 1e6):
            yield f"On {place}: {name} is {figure(number)}, which is not on any page."
        if name == "layer" and value not in known.layers:
            yield f"On {place}: the layer “{value}” does not exist."
        elif name in PICTURES and value is not None and value not in known.pictures:
            yield f"On {place}: the picture “{value}” is not among the publication's."
        elif name == "text_style" and value is not None and value not in known.paragraphs:
            yield f"On {place}: the paragraph style “{value}” does not exist."
        elif name in TEXT_COLOURS and value is not None and value not in known.colours:
            yield f"On {place}: the colour “{value}” does not exist."
        elif name == "text":
            yield from _text(value, place, known)  # type: ignore[arg-type]
        elif isinstance(value, Fill | Stroke) and value.colour not in known.colours:
            yield f"On {place}: the colour “{value.colour}” does not exist."


def _text(text: Text, place: str, known: _Known) -> Iterator[str]:
    for paragraph in text:
        if paragraph.style not in known.paragraphs:
            yield f"On {place}: the paragraph style “{paragraph.style}” does not exist."
        for piece in paragraph.content:
            if piece.style is not None and piece.style not in known.characters:
                yield f"On {place}: the character style “{piece.style}” does not exist."
            look = piece.look
            if look is not None and look.colour is not None and look.colour not in known.colours:
                yield f"On {place}: the colour “{look.colour}” does not exist."
            if look is not None and look.on_dark is not None and look.on_dark not in known.colours:
                yield f"On {place}: the colour “{look.on_dark}” does not exist."
            if isinstance(piece, Anchor):
                yield from _anchor(piece, place, known)


def _anchor(anchor: Anchor, place: str, known: _Known) -> Iterator[str]:
    if anchor.picture is not None and anchor.picture not in known.pictures:
        yield f"On {place}: an anchored picture is not among the publication's."
    if anchor.caption_style not in (None, *known.paragraphs):
        yield f"On {place}: the caption's style “{anchor.caption_style}” does not exist."
