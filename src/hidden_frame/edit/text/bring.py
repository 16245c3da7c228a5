"""A manuscript brought into a publication."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, MutableMapping
from typing import NamedTuple, get_args

from msgspec.structs import replace

from hidden_frame.edit.change import new_ids
from hidden_frame.edit.looks.styles import (
    put_character_style,
    put_picture,
)
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.stories import add_waiting
from hidden_frame.edit.text.dressed import AS_THERE, new_style
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Waiting
from hidden_frame.model.styles import (
    CharacterStyle,
)
from hidden_frame.model.text import (
    Anchor,
    IndexMark,
    Look,
    Marker,
    Note,
    Paragraph,
    Piece,
    Reach,
    Reference,
    Run,
    Stands,
    Starts,
    Text,
    Told,
)
from hidden_frame.storage.manuscripts.manuscript import (
    Manuscript,
    ManuscriptRun,
    Noted,
    Para,
    Pictured,
    Referring,
    SourceLook,
    Termed,
)
from hidden_frame.storage.pictures import picture_from_bytes

_BODY = {"normal", "text body", "body text", "standard", "default paragraph style", "body", "text"}
_LANGUAGE = re.compile(r"[a-z]{2,3}(_[A-Za-z]{2,8})*")


def matched(publication: Publication, names: list[str]) -> dict[str, str]:
    """For each style of a manuscript the publication's style of that name, by id; "" where there
    is none, so that one will be made.  Plain paragraphs take the first style."""
    known = {s.name.casefold(): s.id for s in publication.paragraph_styles}
    found: dict[str, str] = {}
    for name in names:
        word = name.casefold()
        if word in known:
            found[name] = known[word]
        elif word in _BODY:
            found[name] = publication.paragraph_styles[0].id
        elif word in ("heading 1", "title") and "heading" in known:
            found[name] = known["heading"]
        else:
            found[name] = ""
    return found


def brought(
    publication: Publication,
    manuscript: Manuscript,
    matches: Mapping[str, str] | None = None,
    blobs: MutableMapping[str, bytes] | None = None,
) -> tuple[Publication, Text]:
    """The publication with the styles that a manuscript needs, and its text in them.

    `matches` are style ids by the manuscript's names, "" for a new one as its kind usually looks,
    `AS_THERE` for one that looks as it does there; `matched` by default.  The bytes of pictures
    that stand in the text go into `blobs`.
    """
    chosen = matched(publication, manuscript.styles) | dict(matches or {})
    for name in manuscript.styles:
        if chosen.get(name, "") in ("", AS_THERE):
            look = manuscript.looks.get(name) if chosen.get(name) else None
            publication, chosen[name] = new_style(publication, name, look)
    coming = _Coming(publication, manuscript, {} if blobs is None else blobs)
    text = tuple(coming.paragraph(p, chosen[p.style]) for p in manuscript.paragraphs)
    return coming.publication, text


class _Coming:
    """A manuscript on its way in: what its character styles, places and pictures have become."""

    def __init__(
        self, publication: Publication, manuscript: Manuscript, blobs: MutableMapping[str, bytes]
    ) -> None:
        self.publication, self.blobs = publication, blobs
        self.usual = _usual_language(manuscript)
        known = {s.name.casefold(): s.id for s in publication.character_styles}
        self.named: dict[str, str] = {}
        for name, look in manuscript.characters.items():
            self.named[name] = known.get(name.casefold()) or self._new_characters(name, look)
        places = dict.fromkeys(p.place for p in manuscript.paragraphs if p.place)
        self.publication, ids = new_ids(self.publication, "place", len(places))
        self.places = dict(zip(places, ids, strict=True))

    def _new_characters(self, name: str, look: SourceLook) -> str:
        self.publication, (style_id,) = new_ids(self.publication, "style", 1)
        names = (s.name for s in self.publication.character_styles)
        style = CharacterStyle(
            id=style_id, name=free_name(name[:80], names), bold=look.bold, italic=look.italic,
            case="small capitals" if look.small_capitals else None, strike=look.strike or None,
            underline=look.underline or None,
            raised=look.raised if look.raised in ("superior", 
                "inferior") else None,  # type: ignore[arg-type]
        )  # fmt: skip
        self.publication = put_character_style(self.publication, style)
        return style_id

    def paragraph(self, source: Para, style: str) -> Paragraph:
        pieces = (self._piece(s) for s in source.stretches if s.text or s.beside is not None)
        starts = source.starts if source.starts in get_args(Starts) else None
        return Paragraph(
            style, tuple(p for p in pieces if p is not None), starts=starts,  # type: ignore[arg-type]
            place=self.places.get(source.place, ""), count_from=source.count_from,
        )  # fmt: skip

    def _piece(self, stretch: ManuscriptRun) -> Piece | None:
        """A stretch as a run; what stands beside the text as what it is here."""
        match stretch.beside:
            case Noted(words):
                return Note(tuple(self._run(s) for s in words if s.text))
            case Termed(term, sub, see, also, reach):
                reaches = reach if reach in get_args(Reach) else "here"
                return IndexMark(term, sub, see, also, reaches)  # type: ignore[arg-type]
            case Referring(place, tells, said):
                if place not in self.places or tells not in get_args(Told):
                    return Run(said) if said else None
                refers = Reference(self.places[place], tells)  # type: ignore[arg-type]
                return Marker("reference", refers=refers)
            case Pictured() as pictured:
                return self._anchor(pictured)
        return self._run(stretch)

    def _run(self, stretch: ManuscriptRun) -> Run:
        run = run_of(stretch, self.usual)
        named = self.named.get(stretch.named)
        return run if named is None else replace(run, style=named)

    def _anchor(self, pictured: Pictured) -> Anchor | None:
        try:
            picture, data = picture_from_bytes(pictured.data, pictured.name)
        except Refusal:
            return None  # it is counted where the tray is filled
        self.publication = put_picture(self.publication, picture)
        self.blobs[picture.hash] = data
        stands = pictured.stands if pictured.stands in get_args(Stands) else "above the line"
        wide, high = (min(max(n, 1.0), 5000.0) for n in (pictured.width, pictured.height))
        return Anchor(wide, high, stands, picture.hash, caption=pictured.caption[:2000])  # type: ignore[arg-type]


def _usual_language(manuscript: Manuscript) -> str | None:
    """The language of most of its characters, which need not be said of each."""
    count: Counter[str | None] = Counter()
    for paragraph in manuscript.paragraphs:
        for stretch in paragraph.stretches:
            count[stretch.language] += len(stretch.text)
    return count.most_common(1)[0][0] if count else None


def run_of(stretch: ManuscriptRun, usual: str | None = None) -> Run:
    """A stretch as a run; its language is said where it is not the usual one."""
    code = (stretch.language or "").replace("-", "_")
    language = code if stretch.language != usual and _LANGUAGE.fullmatch(code) else None
    look = Look(
        bold=stretch.bold or None, italic=stretch.italic or None, language=language,
        case="small capitals" if stretch.small_capitals else None,
        raised=stretch.raised if stretch.raised in (
            "superior", "inferior") else None,  # type: ignore[arg-type]
        strike=stretch.strike or None, underline=stretch.underline or None,
    )  # fmt: skip
    return Run(stretch.text) if look == Look() else Run(stretch.text, look=look)


class BroughtPictures(NamedTuple):
    """The publication with a manuscript's pictures in its story's tray, their bytes by hash, and
    how many are of a kind that can't be placed."""

    publication: Publication
    blobs: dict[str, bytes]
    left: int


def pictures_kept(
    publication: Publication, story_id: str, manuscript: Manuscript, first: int
) -> BroughtPictures:
    """A manuscript's pictures kept in the tray of its story, in which its text begins at the
    paragraph `first`."""
    blobs: dict[str, bytes] = {}
    waiting: list[Waiting] = []
    left = 0
    for inlay in manuscript.pictures:
        try:
            picture, data = picture_from_bytes(inlay.data, inlay.name)
        except Refusal:
            left += 1
            continue
        publication = put_picture(publication, picture)
        blobs[picture.hash] = data
        waiting.append(Waiting(picture.hash, first + inlay.paragraph))
    return BroughtPictures(add_waiting(publication, story_id, waiting), blobs, left)
