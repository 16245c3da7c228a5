"""A manuscript in a form that knows no file format: paragraphs in named styles, with emphasis."""

from __future__ import annotations

import re
from typing import Any, NamedTuple

from hidden_frame.model.number_format import figure, grouped

MAX_BYTES = 200_000_000  # of a part of a file, unpacked
LINE_BREAK = "\u2028"
MOST_LEVELS = 9  # of a list
CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f\ufffe\uffff\ud800-\udfff]")
SUPERIORS = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


class Noted(NamedTuple):
    """A note: what it says."""

    words: tuple[ManuscriptRun, ...]


class Termed(NamedTuple):
    """An entry of an index: a term and its sub-term, or another term to look up."""

    term: str
    sub: str = ""
    see: str = ""
    see_also: str = ""
    reach: str = "here"  # or "begins", "ends"


class Referring(NamedTuple):
    """A reference to a paragraph that has a place of that name: what it tells of it, and says."""

    place: str
    tells: str = "text"
    said: str = ""


class Pictured(NamedTuple):
    """A picture at its place in the text: its file's name and bytes, its size in points, its
    caption, and how it stands (as an anchor does; "" where the source says nothing of that)."""

    name: str
    data: bytes
    width: float
    height: float
    caption: str = ""
    stands: str = ""


class RunManner(NamedTuple):
    """How characters look beyond their paragraph's style: what they say themselves, and the name
    of the character style that they are in."""

    bold: bool = False
    italic: bool = False
    language: str | None = None
    small_capitals: bool = False
    raised: str = ""  # "superior" or "inferior"
    strike: bool = False
    underline: bool = False
    named: str = ""


PLAIN = RunManner()


class ManuscriptRun(NamedTuple):
    """Characters in one look; a tab is U+0009, a line break U+2028.

    One that stands for something `beside` the text shows a note's number, or nothing.
    """

    text: str
    bold: bool = False
    italic: bool = False
    language: str | None = None
    beside: Noted | Termed | Referring | Pictured | None = None
    small_capitals: bool = False
    raised: str = ""
    strike: bool = False
    underline: bool = False
    named: str = ""

    @property
    def manner(self) -> RunManner:
        """How it looks."""
        return RunManner(self.bold, self.italic, self.language, *self[5:])


def stretch_of(text: str, manner: RunManner) -> ManuscriptRun:
    """Characters in a manner."""
    rest: dict[str, Any] = dict(zip(RunManner._fields[3:], manner[3:], strict=True))
    return ManuscriptRun(text, *manner[:3], **rest)


class Para(NamedTuple):
    """A paragraph; `style` is the name that the source gives its style.

    One of a list has its `level` there, from 1, and is numbered or has a bullet; its list begins
    anew `count_from` a number.  It `starts` on a new page, if it says so (as a style does), and
    others refer to it by the name of its `place`.
    """

    style: str
    stretches: tuple[ManuscriptRun, ...]
    level: int = 0
    numbered: bool = False
    count_from: int | None = None
    starts: str = ""
    place: str = ""

    @property
    def text(self) -> str:
        return "".join(s.text for s in self.stretches)


class SourceLook(NamedTuple):
    """What a style looks like in the source; lengths in points, None where it does not say."""

    family: str = ""
    size: float | None = None
    leading: float | None = None
    bold: bool | None = None
    italic: bool | None = None
    alignment: str = ""
    space_before: float | None = None
    space_after: float | None = None
    indent_left: float | None = None
    indent_right: float | None = None
    indent_first: float | None = None
    keep_next: bool | None = None
    small_capitals: bool | None = None
    strike: bool | None = None
    underline: bool | None = None
    raised: str = ""

    @property
    def manner(self) -> RunManner:
        """What it says of characters."""
        return RunManner(
            bool(self.bold), bool(self.italic), None, bool(self.small_capitals), self.raised,
            bool(self.strike), bool(self.underline),
        )  # fmt: skip

    def in_words(self) -> str:
        """“Garamond 12 pt, bold, centred”."""
        size = f"{figure(self.size)} pt" if self.size else ""
        parts = [" ".join(p for p in (self.family, size) if p)]
        parts += [w for w, on in (("bold", self.bold), ("italic", self.italic)) if on]
        parts += [{"centre": "centred"}.get(self.alignment, self.alignment)]
        return ", ".join(part for part in parts if part)


class Inlay(NamedTuple):
    """A picture in a text: its file's name and bytes, and the paragraph that it stood in."""

    name: str
    data: bytes
    paragraph: int


class Manuscript(NamedTuple):
    """All that was read; `left` counts by name what was left out, `came` what came; `encoding` is
    that of a plain text, as Python names it.  The last paragraphs, so many as `at_end` says, are
    notes, which stand beside the text too.  `looks` says of its styles, and `characters` of its
    character styles, what they look like there, by their names."""

    name: str
    paragraphs: tuple[Para, ...]
    pictures: tuple[Inlay, ...]
    came: dict[str, int]
    left: dict[str, int]
    encoding: str = ""
    at_end: int = 0
    looks: dict[str, SourceLook] = {}
    characters: dict[str, SourceLook] = {}

    def with_live_notes(self) -> Manuscript:
        """The notes stand beside the text alone, to be numbered and listed by the program."""
        kept = self.paragraphs[: len(self.paragraphs) - self.at_end]
        return self._replace(paragraphs=kept, at_end=0)

    def with_notes_at_end(self) -> Manuscript:
        """The notes are paragraphs at the end, and their numbers mere figures."""
        return self._replace(paragraphs=tuple(_without(p, Noted) for p in self.paragraphs))

    def with_pictures_in_tray(self) -> Manuscript:
        """The pictures stand nowhere in the text: they wait to be placed."""
        return self._replace(paragraphs=tuple(_without(p, Pictured) for p in self.paragraphs))

    @property
    def styles(self) -> list[str]:
        """The styles that its paragraphs are in, in the order in which they appear."""
        return list(dict.fromkeys(p.style for p in self.paragraphs))


def cleaned(value: Any) -> Any:
    """The same without characters that no file may hold, in whatever strings it has."""
    if isinstance(value, str):
        return CONTROL.sub("", value)
    if isinstance(value, tuple):
        parts = [cleaned(part) for part in value]
        return type(value)(*parts) if hasattr(value, "_fields") else tuple(parts)
    return value


def _without(paragraph: Para, kind: type[Noted] | type[Pictured]) -> Para:
    """A paragraph without live notes, or without pictures in its text."""
    if not any(isinstance(s.beside, kind) for s in paragraph.stretches):
        return paragraph
    plain = (
        s._replace(beside=None) if isinstance(s.beside, kind) else s for s in paragraph.stretches
    )
    return paragraph._replace(stretches=tuple(s for s in plain if s.text or s.beside is not None))


LEVELS = "levels of nesting"  # what is left out of a text that is nested deeper than is read


def report_in_words(manuscript: Manuscript) -> str:
    """“412 paragraphs, 3 notes came; 2 comments were left out.”"""
    came = [f"{grouped(n)} {_one(word, n)}" for word, n in manuscript.came.items() if n]
    left = [f"{grouped(n)} {_one(word, n)}" for word, n in manuscript.left.items() if n]
    words = f"{_listed(came) or 'Nothing'} came"
    if left:
        one = len(left) == 1 and left[0].startswith("1 ")
        words += f"; {_listed(left)} {'was' if one else 'were'} left out"
    return words + "."


def _one(word: str, count: int) -> str:
    if count != 1:
        return word
    head, *rest = re.split(r" (?=of |among |elsewhere)", word, maxsplit=1)
    one = f"{head[:-3]}y" if head.endswith("ies") else head.removesuffix("s")
    return " ".join([one, *rest])


def _listed(parts: list[str]) -> str:
    return ", ".join(parts[:-1]) + " and " + parts[-1] if len(parts) > 1 else "".join(parts)
