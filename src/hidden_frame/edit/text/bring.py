"""A manuscript brought into a publication, and a story as a manuscript again."""

from __future__ import annotations

import re
from collections import Counter
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.edit.looks.styles import new_paragraph_style, put_paragraph_style, put_picture
from hidden_frame.edit.stories import add_waiting
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Waiting
from hidden_frame.model.styles import (
    ParagraphStyle,
    computed_characters,
    computed_paragraphs,
)
from hidden_frame.model.text import (
    Anchor,
    IndexMark,
    Look,
    Marker,
    Note,
    Paragraph,
    Run,
    TabStop,
    Text,
)
from hidden_frame.storage.manuscripts.manuscript import Manuscript, Noted, Para, Stretch, Termed
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
    publication: Publication, manuscript: Manuscript, matches: dict[str, str] | None = None
) -> tuple[Publication, Text]:
    """The publication with the styles that a manuscript needs, and its text in them.

    `matches` are style ids by the manuscript's names, "" for a new one; `matched` by default.
    """
    chosen = matched(publication, manuscript.styles) | (matches or {})
    for name in manuscript.styles:
        if not chosen.get(name):
            publication, chosen[name] = _new_style(publication, name)
    usual = _usual_language(manuscript)
    text = tuple(
        Paragraph(
            chosen[p.style], tuple(_piece(s, usual) for s in p.stretches if s.text or s.beside)
        )
        for p in manuscript.paragraphs
    )
    return publication, text


def _piece(stretch: Stretch, usual: str | None) -> Run | Note | IndexMark:
    """A stretch as a run; what stands beside the text as a note or an index mark."""
    if isinstance(stretch.beside, Noted):
        return Note(tuple(run_of(s, usual) for s in stretch.beside.words if s.text))
    if isinstance(stretch.beside, Termed):
        return IndexMark(*stretch.beside)
    return run_of(stretch, usual)


def _new_style(publication: Publication, name: str) -> tuple[Publication, str]:
    """A style of this name, based on the first one, as its kind usually looks."""
    first = publication.paragraph_styles[0].id
    publication, style_id = new_paragraph_style(publication, first, based=True)
    style = replace(paragraph_style(publication, style_id), name=name[:80] or "Style")
    size = computed_paragraphs(publication.paragraph_styles)[first].size
    return put_paragraph_style(publication, _dressed(style, name, size)), style_id


def _dressed(style: ParagraphStyle, name: str, size: float) -> ParagraphStyle:
    """How headings, lists, quotes and notes look until somebody chooses otherwise (common practice
    of the trade)."""
    level = int(name[8:]) if name.startswith("Heading ") and name[8:].isdecimal() else 0
    if level:
        larger = round(size * max(1.0, 1.7 - 0.2 * (level - 1)), 1)
        return replace(
            style, bold=True, size=larger, leading=round(larger * 1.25, 1), alignment="left",
            space_before=round(size * 1.2, 1), space_after=round(size * 0.5, 1), indent_first=0.0,
            hyphenate=False,
        )  # fmt: skip
    if name in ("List bullet", "List number"):
        return replace(style, indent_left=16.0, indent_first=-16.0, tabs=(TabStop(16.0),))
    if name == "Quote":
        return replace(style, indent_left=18.0, indent_right=18.0, indent_first=0.0, italic=True)
    if name == "Note":
        small = round(size * 0.85, 1)
        return replace(
            style, size=small, leading=round(small * 1.3, 1), indent_left=16.0, indent_first=-16.0,
            tabs=(TabStop(16.0),),
        )  # fmt: skip
    return style


def _usual_language(manuscript: Manuscript) -> str | None:
    """The language of most of its characters, which need not be said of each."""
    count: Counter[str | None] = Counter()
    for paragraph in manuscript.paragraphs:
        for stretch in paragraph.stretches:
            count[stretch.language] += len(stretch.text)
    return count.most_common(1)[0][0] if count else None


def run_of(stretch: Stretch, usual: str | None = None) -> Run:
    """A stretch as a run; its language is said where it is not the usual one."""
    code = (stretch.language or "").replace("-", "_")
    language = code if stretch.language != usual and _LANGUAGE.fullmatch(code) else None
    bold, italic = stretch.bold or None, stretch.italic or None
    if bold is None and italic is None and language is None:
        return Run(stretch.text)
    return Run(stretch.text, look=Look(bold=bold, italic=italic, language=language))


class Pictures(NamedTuple):
    """The publication with a manuscript's pictures in its story's tray, their bytes by hash, and
    how many are of a kind that can't be placed."""

    publication: Publication
    blobs: dict[str, bytes]
    left: int


def pictures_kept(
    publication: Publication, story_id: str, manuscript: Manuscript, first: int
) -> Pictures:
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
    return Pictures(add_waiting(publication, story_id, waiting), blobs, left)


def as_paragraphs(publication: Publication, text: Text) -> list[Para]:
    """A text as a manuscript's paragraphs; the first style is what others call Normal."""
    names = {s.id: s.name for s in publication.paragraph_styles}
    names[publication.paragraph_styles[0].id] = "Normal"
    characters = computed_characters(publication.character_styles)
    found = []
    for paragraph in text:
        stretches = []
        for piece in paragraph.content:
            if isinstance(piece, Marker):
                stretches.append(Stretch(f"[{piece.detail or piece.shows}]"))
                continue
            if isinstance(piece, Note):
                words = "".join(run.text for run in piece.content)
                stretches.append(Stretch(f"[{piece.number}: {words}]"))
                continue
            if isinstance(piece, IndexMark):
                continue
            if isinstance(piece, Anchor):
                stretches.append(Stretch(f"[{piece.caption or 'picture'}]"))
                continue
            named, look = characters.get(piece.style or ""), piece.look
            bold = next((v for v in (look and look.bold, named and named.bold) if v is not None), 0)
            italic = next(
                (v for v in (look and look.italic, named and named.italic) if v is not None), 0
            )
            language = look.language if look is not None else None
            stretches.append(Stretch(piece.text, bool(bold), bool(italic), language))
        found.append(Para(names[paragraph.style], tuple(stretches)))
    return found
