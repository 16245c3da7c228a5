"""References kept right, made, and what they can refer to."""

from __future__ import annotations

from typing import NamedTuple

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer, Composition
from hidden_frame.compose.facts import page_name
from hidden_frame.compose.heads import plain_words
from hidden_frame.compose.references import Referred, places
from hidden_frame.edit.change import change_texts, new_ids
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.stories import set_story_text
from hidden_frame.interact.likely import heading_styles
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, find_story
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Marker, Paragraph, Piece, Text


def _has_reference(paragraph: Paragraph) -> bool:
    return any(isinstance(piece, Marker) and piece.refers is not None
               for piece in paragraph.content)  # fmt: skip


def _holds_reference(holder: Master | Page) -> bool:
    """Whether a text of a page or master has a reference."""
    texts = [item.text for item in holder.items if isinstance(item, TextFrame)]
    texts += [o.text for o in holder.overrides if not isinstance(o.text, UnsetType)]
    return any(_has_reference(paragraph) for text in texts for paragraph in text)


_references: Sparse[Paragraph, bool] = Sparse(lambda paragraph: _has_reference(paragraph) or None)
_holders: Sparse[Master | Page, bool] = Sparse(lambda holder: _holds_reference(holder) or None)


def _refers(text: Text) -> list[int]:
    """The numbers of the paragraphs of a text that have a reference."""
    return [n for n, _ in _references(text)]


def _in_holders(publication: Publication) -> bool:
    """Whether a text of a page or master has a reference."""
    return bool(_holders(publication.masters)) or any(
        _holders(section.pages) for section in publication.sections
    )


def has_references(publication: Publication) -> bool:
    """Whether any text has a reference."""
    if any(_refers(story.text) for story in publication.stories):
        return True
    return _in_holders(publication)


def referred(publication: Publication, composer: Composer) -> Publication:
    """The publication with its references as the pages are now; itself if all are."""
    if not has_references(publication):
        return publication
    known = places(composer.compose(publication))
    if _in_holders(publication):
        changed = change_texts(publication, lambda text: _told(text, known))
        return publication if changed == publication else changed
    for story in publication.stories:
        text = _told(story.text, known)
        if text is not story.text:
            publication = set_story_text(publication, story.id, text)
    return publication


def _told(text: Text, known: dict[str, Referred]) -> Text:
    if not _refers(text):
        return text

    def piece(old: Piece) -> Piece:
        if not isinstance(old, Marker) or old.refers is None:
            return old
        found = known.get(old.refers.place)
        said, page = (found.said(old.refers), found.page) if found is not None else ("", "")
        if (said, page) == (old.refers.said, old.refers.page):
            return old
        return replace(old, refers=replace(old.refers, said=said, page=page))

    def paragraph(old: Paragraph) -> Paragraph:
        content = tuple([piece(c) for c in old.content])
        same = all(a is b for a, b in zip(content, old.content, strict=True))
        return old if same else replace(old, content=content)

    changed = {n: new for n in _refers(text) if (new := paragraph(text[n])) is not text[n]}
    if not changed:
        return text
    return tuple([changed.get(n, p) for n, p in enumerate(text)])


class Target(NamedTuple):
    """A paragraph that can be referred to: whose text it is of (a story, or a page and an item of
    it), its number there, and what it says."""

    holder: str
    item: str
    paragraph: int
    words: str
    where: str


def targets(composition: Composition) -> list[Target]:
    """Headings, numbered paragraphs, captions and places that have a name, story by story and then
    page by page."""
    publication = composition.publication
    known = computed_paragraphs(publication.paragraph_styles)
    wanted = set(heading_styles(publication))
    wanted |= {s.id for s in known.values() if s.number is not None}
    wanted |= {s.id for s in known.values() if "caption" in s.name.lower()}

    def meant(paragraph: Paragraph) -> bool:
        return bool(paragraph.place) or paragraph.style in wanted

    found: list[Target] = []
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
) -> Target:  # fmt: skip
    words = f"{number} {plain_words(paragraph)}".strip()
    if paragraph.place_name:
        words = f"{paragraph.place_name}: {words}"
    where = page_name(composition.facts[page]) if page else "on no page"
    return Target(holder, item, n, words[:160], where)


def placed(publication: Publication, target: Target, name: str = "") -> tuple[Publication, str]:
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


def text_of(publication: Publication, target: Target) -> Text:
    """The text that a target is a paragraph of."""
    if not target.item:
        return find_story(publication, target.holder).text
    page = find_page(publication, target.holder)
    item = next(i for i in page.items if i.id == target.item)
    assert isinstance(item, TextFrame)
    return item.text
