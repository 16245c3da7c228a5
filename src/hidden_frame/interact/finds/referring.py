"""References made, and what they can refer to."""

from __future__ import annotations

from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_name
from hidden_frame.compose.heads import plain_words
from hidden_frame.edit.change import new_ids
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.stories import set_story_text
from hidden_frame.interact.hands.likely import heading_styles
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, find_story
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Paragraph, Text


class ReferTarget(NamedTuple):
    """A paragraph that can be referred to: whose text it is of (a story, or a page and an item of
    it), its number there, and what it says."""

    holder: str
    item: str
    paragraph: int
    words: str
    where: str


def targets(composition: Composition) -> list[ReferTarget]:
    """Headings, numbered paragraphs, captions and places that have a name, story by story and then
    page by page."""
    publication = composition.publication
    known = computed_paragraphs(publication.paragraph_styles)
    wanted = set(heading_styles(publication))
    wanted |= {s.id for s in known.values() if s.number is not None}
    wanted |= {s.id for s in known.values() if "caption" in s.name.lower()}

    def meant(paragraph: Paragraph) -> bool:
        return bool(paragraph.place) or paragraph.style in wanted

    found: list[ReferTarget] = []
    for story in publication.stories:
        if story.lists:
            continue
        flow, labels = composition.flow(story.id), composition.labels(story.id)
        for n, paragraph in enumerate(story.text):
            if meant(paragraph):
                number = labels[n] if labels is not None else ""
                at = flow.stop_of(n, 0)
                page = flow.stops[at].page_id if at is not None else ""
                found.append(_target(composition, story.id, "", n, paragraph, number, page))
    for section in publication.sections:
        for page_ in section.pages:
            for item in page_.items:
                if isinstance(item, TextFrame) and not item.lists:
                    found += [
                        _target(composition, page_.id, item.id, n, p, "", page_.id)
                        for n, p in enumerate(item.text) if meant(p)
                    ]  # fmt: skip
    return [t for t in found if t.words]


def _target(
    composition: Composition, holder: str, item: str, n: int, paragraph: Paragraph, number: str,
    page: str,
) -> ReferTarget:  # fmt: skip
    words = f"{number} {plain_words(paragraph)}".strip()
    if paragraph.place_name:
        words = f"{paragraph.place_name}: {words}"
    where = page_name(composition.facts[page]) if page else "on no page"
    return ReferTarget(holder, item, n, words[:160], where)


def placed(
    publication: Publication, target: ReferTarget, name: str = ""
) -> tuple[Publication, str]:
    """The publication in which a paragraph has a place, and the place's id; with a name if one is
    given."""
    text = text_of(publication, target)
    paragraph = text[target.paragraph]
    if paragraph.place and not name:
        return publication, paragraph.place
    place = paragraph.place
    if not place:
        publication, (place,) = new_ids(publication, "place", 1)
    made = replace(paragraph, place=place, place_name=name or paragraph.place_name)
    text = (*text[: target.paragraph], made, *text[target.paragraph + 1 :])
    if target.item:
        changes: dict[str, dict[str, object]] = {target.item: {"text": text}}
        return change_items(publication, target.holder, changes), place
    return set_story_text(publication, target.holder, text), place


def text_of(publication: Publication, target: ReferTarget) -> Text:
    """The text that a target is a paragraph of."""
    if not target.item:
        return find_story(publication, target.holder).text
    page = find_page(publication, target.holder)
    item = next(i for i in page.items if i.id == target.item)
    assert isinstance(item, TextFrame)
    return item.text
