"""Words on the clipboard: with their styles within the program, as HTML and plain elsewhere."""

from __future__ import annotations

import msgspec
from msgspec.structs import replace
from PySide6.QtCore import QByteArray, QMimeData

from hidden_frame.edit.text.sent import as_paragraphs
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.places import put_in_here
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import STEADY, Marker, Piece, Text
from hidden_frame.storage.door import from_clipboard

TEXT_MIME = "application/x-hidden-frame-text"


def as_mime(publication: Publication, piece: Text) -> QMimeData:
    """A piece of text in every form that somebody may want."""
    from hidden_frame.storage.manuscripts.write import written  # needed late

    data = QMimeData()
    data.setData(TEXT_MIME, QByteArray(msgspec.msgpack.encode(piece)))
    data.setHtml(written(as_paragraphs(publication, piece), "html").decode("utf-8"))
    data.setText(plain(piece))
    return data


def own_words(data: QMimeData, publication: Publication, style: str, *, whole: bool) -> Text | None:
    """The text that was copied in this program, in styles that are here; None if none was.

    Paragraphs in a style that is unknown take `style`.  With `whole` it goes into a story, where
    markers that depend on the page become their names.
    """
    if not data.hasFormat(TEXT_MIME):
        return None
    try:
        piece: Text = from_clipboard(bytes(data.data(TEXT_MIME).data()), Text)
    except Refusal:
        return None
    return put_in_here(publication, known_here(piece, publication, style, whole))


def known_here(piece: Text, publication: Publication, style: str, whole: bool) -> Text:
    """A piece without styles that are not here."""
    paragraphs = {s.id for s in publication.paragraph_styles}
    characters = {s.id for s in publication.character_styles}
    colours = {c.id for c in publication.colours}

    def content(old: Piece) -> Piece | None:
        if isinstance(old, Marker) and whole and old.shows not in STEADY:
            return None
        new = old if old.style is None or old.style in characters else replace(old, style=None)
        if new.look is not None and new.look.colour is not None and new.look.colour not in colours:
            new = replace(new, look=replace(new.look, colour=None))
        return new

    return tuple(
        replace(
            p,
            style=p.style if p.style in paragraphs else style,
            content=tuple(c for c in map(content, p.content) if c is not None),
        )
        for p in piece
    )
