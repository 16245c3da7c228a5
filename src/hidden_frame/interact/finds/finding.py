"""Words found in stories, frames and masters, each with the page it stands on; all replaced in one
edit."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.compose.composition import Composition
from hidden_frame.edit.change import change_holder
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text.find import (
    OBJECT,
    Query,
    TextHit,
    TextRange,
    characters,
    hits,
    replaced,
)
from hidden_frame.model.items import Item, Override, TextFrame
from hidden_frame.model.lookup import find_story, holders, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.text import Text

MOST = 2_000  # hits that are listed
_AROUND = 24  # characters shown at either side


class TextSpot(NamedTuple):
    """Whose text: a story's, or an item's (or its override's) on a page or master."""

    story_id: str = ""
    holder_id: str = ""
    item_id: str = ""
    overridden: bool = False


class WordFound(NamedTuple):
    """A hit with the words around it, and where it is read: a page's id, a master's, or "" for
    what has no room."""

    spot: TextSpot
    hit: TextHit
    before: str
    words: str
    after: str
    page_id: str


class SearchScope(NamedTuple):
    """What is looked in: everything, one text, or a stretch of it."""

    spot: TextSpot | None = None
    stretch: TextRange | None = None


EVERYTHING = SearchScope()


def texts(
    publication: Publication, spot: TextSpot | None = None
) -> Iterator[tuple[TextSpot, Text]]:
    """The texts that are looked at: one, or all, masters included."""
    if spot is not None and spot.story_id:
        yield spot, find_story(publication, spot.story_id).text
        return
    for each, text in _all_texts(publication):
        if spot is None or each == spot:
            yield each, text


def _all_texts(publication: Publication) -> Iterator[tuple[TextSpot, Text]]:
    for story in publication.stories:
        yield TextSpot(story.id), story.text
    for holder in holders(publication):
        for item in holder.items:
            if isinstance(item, TextFrame) and item.text:
                yield TextSpot("", holder.id, item.id), item.text
        for override in holder.overrides:
            if not isinstance(override.text, UnsetType):
                yield TextSpot("", holder.id, override.item, True), override.text


def spot_of(publication: Publication, holder_id: str, item_id: str) -> TextSpot | None:
    """Whose text an item of a page or master shows there; None if it has none of its own."""
    here = (holder_id, item_id)
    return next((s for s, _ in _all_texts(publication) if (s.holder_id, s.item_id) == here), None)


def found(
    composition: Composition, query: Query, where: SearchScope = EVERYTHING
) -> list[WordFound]:
    """Every hit, in order of the texts; at most `MOST`."""
    result: list[WordFound] = []
    for spot, text in texts(composition.publication, where.spot):
        for hit in hits(text, query, where.stretch):
            line = characters(text[hit.paragraph])
            before = line[max(hit.start - _AROUND, 0) : hit.start]
            after = line[hit.end : hit.end + _AROUND]
            page = page_of(composition, spot, hit)
            words = line[hit.start : hit.end].replace(OBJECT, "")
            before, after = before.replace(OBJECT, ""), after.replace(OBJECT, "")
            result.append(WordFound(spot, hit, before, words, after, page))
            if len(result) >= MOST:
                return result
    return result


def page_of(composition: Composition, spot: TextSpot, hit: TextHit) -> str:
    """Where a hit is read: a page's id, a master's, or "" for what has no room."""
    if not spot.story_id:
        return spot.holder_id
    flow = composition.flow(spot.story_id)
    at = flow.stop_of(hit.paragraph, hit.start)
    return flow.stops[at].page_id if at is not None else ""


def page_in_words(composition: Composition, page_id: str) -> str:
    """A page by its folio, a master by its name, or that it has no room."""
    masters = masters_by_id(composition.publication)
    if page_id in masters:
        return f"master {masters[page_id].name}"
    facts = composition.facts.get(page_id)
    if facts is None:
        return "no room"
    return facts.folio or f"#{facts.position}"


class Replacement(NamedTuple):
    """A publication with words replaced, and how many."""

    publication: Publication
    times: int


def replaced_all(
    publication: Publication, query: Query, by: str, where: SearchScope = EVERYTHING
) -> Replacement:
    """Every hit replaced."""
    count = 0
    for spot, text in list(texts(publication, where.spot)):
        new, some = replaced(text, query, by, within=where.stretch)
        if some:
            count += some
            publication = put_text(publication, spot, new)
    return Replacement(publication, count)


def replaced_one(publication: Publication, one: WordFound, query: Query, by: str) -> Publication:
    """One hit replaced."""
    for spot, text in texts(publication, one.spot):
        if spot == one.spot:
            return put_text(publication, spot, replaced(text, query, by, one.hit)[0])
    return publication


def put_text(publication: Publication, spot: TextSpot, text: Text) -> Publication:
    """A text as another one."""
    if spot.story_id:
        return set_story_text(publication, spot.story_id, text)

    def item(old: Item) -> Item:
        mine = old.id == spot.item_id and not spot.overridden and isinstance(old, TextFrame)
        return replace(old, text=text) if mine else old

    def override(old: Override) -> Override:
        return replace(old, text=text) if old.item == spot.item_id and spot.overridden else old

    def new(owner: Page | Master) -> Page | Master:
        return replace(
            owner,
            items=tuple(item(i) for i in owner.items),
            overrides=tuple(override(o) for o in owner.overrides),
        )

    return change_holder(publication, spot.holder_id, new)
