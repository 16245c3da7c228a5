"""Words found in stories, frames and masters, each with the page it stands on; all replaced in one
edit."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.compose.composer import Composition
from hidden_frame.edit.change import change_holder
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text.find import Query, TextHit, characters, hits, replaced
from hidden_frame.model.items import Item, Override, TextFrame
from hidden_frame.model.lookup import find_story, holders, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.text import Text

Scope = Literal["story", "everything"]
MOST = 2_000  # hits that are listed
_AROUND = 24  # characters shown at either side


class Spot(NamedTuple):
    """Whose text: a story's, or an item's (or its override's) on a page or master."""

    story_id: str = ""
    holder_id: str = ""
    item_id: str = ""
    overridden: bool = False


class WordFound(NamedTuple):
    """A hit with the words around it, and where it is read: a page's id, a master's, or "" for
    what has no room."""

    spot: Spot
    hit: TextHit
    before: str
    words: str
    after: str
    page_id: str


def texts(publication: Publication, scope: Scope, story_id: str) -> Iterator[tuple[Spot, Text]]:
    """The texts that are looked at: one story's, or all, masters included."""
    if scope == "story":
        yield Spot(story_id), find_story(publication, story_id).text
        return
    for story in publication.stories:
        yield Spot(story.id), story.text
    for holder in holders(publication):
        for item in holder.items:
            if isinstance(item, TextFrame) and item.text:
                yield Spot("", holder.id, item.id), item.text
        for override in holder.overrides:
            if not isinstance(override.text, UnsetType):
                yield Spot("", holder.id, override.item, True), override.text


def found(
    composition: Composition, query: Query, scope: Scope, story_id: str = ""
) -> list[WordFound]:
    """Every hit, in order of the texts; at most `MOST`."""
    result: list[WordFound] = []
    for spot, text in texts(composition.publication, scope, story_id):
        for hit in hits(text, query):
            line = characters(text[hit.paragraph])
            before = line[max(hit.start - _AROUND, 0) : hit.start]
            after = line[hit.end : hit.end + _AROUND]
            where = _page(composition, spot, hit)
            result.append(WordFound(spot, hit, before, line[hit.start : hit.end], after, where))
            if len(result) >= MOST:
                return result
    return result


def _page(composition: Composition, spot: Spot, hit: TextHit) -> str:
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
    publication: Publication, query: Query, by: str, scope: Scope, story_id: str = ""
) -> Replacement:
    """Every hit replaced."""
    count = 0
    for spot, text in list(texts(publication, scope, story_id)):
        new, some = replaced(text, query, by)
        if some:
            count += some
            publication = _put(publication, spot, new)
    return Replacement(publication, count)


def replaced_one(publication: Publication, one: WordFound, query: Query, by: str) -> Publication:
    """One hit replaced."""
    for spot, text in texts(publication, "everything", ""):
        if spot == one.spot:
            return _put(publication, spot, replaced(text, query, by, one.hit)[0])
    return publication


def _put(publication: Publication, spot: Spot, text: Text) -> Publication:
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
