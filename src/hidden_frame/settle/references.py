"""References kept as the pages are."""

from __future__ import annotations

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.references import Referred, places
from hidden_frame.edit.change import change_texts
from hidden_frame.edit.stories import set_story_text
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.sparse import Sparse
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
