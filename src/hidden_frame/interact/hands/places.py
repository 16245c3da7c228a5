"""Places of text that is put in: what references refer to, and what sections begin with.

A place that is free comes along, as when its words were cut out of here.  One that a paragraph
has, or that was given in another publication, does not: a copy of a heading isn't what is referred
to, and an id may be given here to something else one day.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from msgspec.structs import replace

from hidden_frame.compose.references import all_places
from hidden_frame.edit.carry.pages import PageClip
from hidden_frame.edit.change import new_ids
from hidden_frame.interact.hands.carried import Along, StoryClip, text_along
from hidden_frame.model.items import Item, TextFrame
from hidden_frame.model.publication import Page, Publication, Section
from hidden_frame.model.text import Marker, Paragraph, Piece, Text


def free_of(publication: Publication, places: Iterable[str]) -> set[str]:
    """Those places that were given here, and that no paragraph has."""
    there = all_places(publication)

    def given(place: str) -> bool:
        number = place.rpartition("-")[2]
        return number.isdecimal() and len(number) < 16 and int(number) < publication.next_id

    return {place for place in places if place not in there and given(place)}


def put_in_here(publication: Publication, piece: Text) -> Text:
    """A piece of text as it can be put into one that is there: without places that are not free."""
    own = {p.place for p in piece if p.place}
    free = free_of(publication, own) if own else own
    return tuple(
        replace(p, place="", place_name="") if p.place and p.place not in free else p for p in piece
    )


def with_places_here(
    publication: Publication, clip: PageClip, stories: Iterable[StoryClip], along: Along
) -> tuple[Publication, PageClip, tuple[StoryClip, ...]]:
    """Pages, or a section, and the stories that come along as they can be put in: places that are
    not free are given anew, and what refers to them in what is brought in follows."""
    stories = tuple(stories) if along != "empty" else ()
    texts = [i.text for p in clip.pages for i in p.items if isinstance(i, TextFrame)]
    texts += [text_along(one, along) for one in stories]
    brought = dict.fromkeys(p.place for text in texts for p in text if p.place)
    there, free = all_places(publication), free_of(publication, brought)
    taken = [place for place in brought if place not in free]
    publication, made = new_ids(publication, "place", len(taken))
    names = dict(zip(taken, made, strict=True))
    others = {s.begins for s in publication.sections}

    def begun(section: Section) -> Section:
        begins = names.get(section.begins, section.begins)
        comes = section.begins in brought
        stays = begins in there and begins not in others  # its section was cut out, its story not
        return replace(section, begins=begins if comes or stays else "")

    sections = tuple(map(begun, clip.sections))
    pages = tuple(_page(page, names) for page in clip.pages)
    clip = replace(clip, sections=sections, pages=pages)
    named = [
        replace(s, clip=replace(s.clip, items=tuple(_item(i, names) for i in s.clip.items)))
        for s in stories
    ]
    return publication, clip, tuple(named)


def _page(page: Page, names: Mapping[str, str]) -> Page:
    return replace(page, items=tuple(_item(item, names) for item in page.items))


def _item(item: Item, names: Mapping[str, str]) -> Item:
    return replace(item, text=_renamed(item.text, names)) if isinstance(item, TextFrame) else item


def _renamed(text: Text, names: Mapping[str, str]) -> Text:
    """A text with other names for places, and in what refers to them."""

    def piece(old: Piece) -> Piece:
        if not isinstance(old, Marker) or old.refers is None or old.refers.place not in names:
            return old
        return replace(old, refers=replace(old.refers, place=names[old.refers.place]))

    def paragraph(old: Paragraph) -> Paragraph:
        content = tuple(map(piece, old.content))
        return replace(old, place=names.get(old.place, old.place), content=content)

    return tuple(map(paragraph, text)) if names else text
