"""A story on its way out, as a manuscript that its author can correct."""

from __future__ import annotations

from collections.abc import Mapping

from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_characters, computed_paragraphs
from hidden_frame.model.text import Anchor, IndexMark, Look, Note, Paragraph, Piece, Run, Text
from hidden_frame.storage.manuscripts.manuscript import (
    ManuscriptRun,
    Noted,
    Para,
    Pictured,
    Referring,
    SourceLook,
    Termed,
)


def as_paragraphs(
    publication: Publication, text: Text, blobs: Mapping[str, bytes] | None = None
) -> list[Para]:
    """A text as a manuscript's paragraphs; the first style is what others call Normal.  `blobs` are
    the bytes of its pictures by hash; without them they are told by their captions."""
    going = _Going(publication, blobs or {})
    return [going.paragraph(p) for p in text]


class _Going:
    """A text on its way out."""

    def __init__(self, publication: Publication, blobs: Mapping[str, bytes]) -> None:
        self.blobs = blobs
        self.styles = computed_paragraphs(publication.paragraph_styles)
        self.names = {s.id: s.name for s in publication.paragraph_styles}
        self.names[publication.paragraph_styles[0].id] = "Normal"
        self.characters = {s.id: s.name for s in publication.character_styles}
        self.pictures = {p.hash: p for p in publication.pictures}

    def paragraph(self, source: Paragraph) -> Para:
        number = self.styles[source.style].number
        heading = self.styles[source.style].keep_next or self.styles[source.style].level
        level = number.level if number is not None and not heading else 0
        return Para(
            self.names[source.style], tuple(self._stretch(piece) for piece in source.content),
            level, bool(level and number is not None and "{" in number.form), source.count_from,
            source.starts if source.starts in _PAGES else "", source.place,
        )  # fmt: skip

    def _stretch(self, piece: Piece) -> ManuscriptRun:
        if isinstance(piece, Run):
            return self._words(piece)
        if isinstance(piece, Note):
            return ManuscriptRun(piece.number, beside=Noted(tuple(map(self._words, piece.content))))
        if isinstance(piece, IndexMark):
            told = (piece.term, piece.sub, piece.see, piece.see_also, piece.reach)
            return ManuscriptRun("", beside=Termed(*told))
        if isinstance(piece, Anchor):
            return self._picture(piece)
        if piece.refers is not None:
            refers = piece.refers
            return ManuscriptRun("", beside=Referring(refers.place, refers.tells, refers.said))
        return ManuscriptRun(f"[{piece.detail or piece.shows}]")

    def _picture(self, anchor: Anchor) -> ManuscriptRun:
        known, data = self.pictures.get(anchor.picture or ""), self.blobs.get(anchor.picture or "")
        if known is None or data is None:
            return ManuscriptRun(f"[{anchor.caption or 'picture'}]")
        name = known.name or f"picture.{known.kind}"
        size = (anchor.width, anchor.height)
        return ManuscriptRun("", beside=Pictured(name, data, *size, anchor.caption, anchor.stands))

    def _words(self, run: Run) -> ManuscriptRun:
        look, named = run.look or Look(), self.characters.get(run.style or "", "")
        return ManuscriptRun(
            run.text, bool(look.bold), bool(look.italic), look.language, None,
            look.case == "small capitals", look.raised if look.raised in _RAISED else "",
            bool(look.strike), bool(look.underline), named,
        )  # fmt: skip


_PAGES = ("page", "right page", "left page")
_RAISED = ("superior", "inferior")


def character_looks(publication: Publication) -> dict[str, SourceLook]:
    """What character styles look like, by their names, for whoever reads what is written."""
    found = {}
    for style in computed_characters(publication.character_styles).values():
        found[style.name] = SourceLook(
            bold=style.bold, italic=style.italic, strike=style.strike, underline=style.underline,
            small_capitals=style.case == "small capitals",
            raised=style.raised if style.raised in _RAISED else "",
        )  # fmt: skip
    return found
