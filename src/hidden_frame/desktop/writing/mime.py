"""Words on the clipboard: with their styles within the program, as HTML and plain elsewhere."""

from __future__ import annotations

import msgspec
from msgspec.structs import replace
from PySide6.QtCore import QByteArray, QMimeData

from hidden_frame.edit.text.bring import matched, run_of
from hidden_frame.edit.text.sent import as_paragraphs
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.places import put_in_here
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import STEADY, Marker, Paragraph, Piece, Text
from hidden_frame.storage.door import door, from_clipboard

TEXT_MIME = "application/x-hidden-frame-text"
_MOST = 4_000_000  # bytes of HTML that are looked at


def as_mime(publication: Publication, piece: Text) -> QMimeData:
    """A piece of text in every form that somebody may want."""
    from hidden_frame.storage.manuscripts.write import written  # needed late

    data = QMimeData()
    data.setData(TEXT_MIME, QByteArray(msgspec.msgpack.encode(piece)))
    data.setHtml(written(as_paragraphs(publication, piece), "html").decode("utf-8"))
    data.setText(plain(piece))
    return data


def from_mime(
    data: QMimeData | None, publication: Publication, style: str, *, whole: bool
) -> Text | None:
    """The text that the clipboard holds, in styles that are here; None where it is plain.

    Paragraphs in a style that is unknown take `style`.  With `whole` it goes into a story, where
    markers that depend on the page become their names.
    """
    if data is None:
        return None
    if data.hasFormat(TEXT_MIME):
        try:
            piece: Text = from_clipboard(bytes(data.data(TEXT_MIME).data()), Text)
        except Refusal:
            return None
        return put_in_here(publication, known_here(piece, publication, style, whole))
    if data.hasHtml() and len(data.html()) <= _MOST:
        from hidden_frame.storage.manuscripts.hypertext import read_html

        try:
            with door("What was copied"):
                source = read_html(data.html(), "clipboard")
        except Refusal:
            return None
        styles = matched(publication, source.styles)
        return (
            tuple(
                Paragraph(styles.get(p.style) or style, tuple(run_of(s) for s in p.stretches))
                for p in source.paragraphs
            )
            or None
        )
    return None


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
