"""A manuscript in a form that knows no file format: paragraphs in named styles, with emphasis."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from typing import Any, NamedTuple

MAX_BYTES = 200_000_000  # of a part of a file, unpacked
LINE_BREAK = "\u2028"
MOST_LEVELS = 9  # of a list
_CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f\ufffe\uffff\ud800-\udfff]")
SUPERIORS = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


class Noted(NamedTuple):
    """A note: what it says."""

    words: tuple[Stretch, ...]


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
    caption, and how it stands (as an anchor does)."""

    name: str
    data: bytes
    width: float
    height: float
    caption: str = ""
    stands: str = "above the line"


class Manner(NamedTuple):
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


PLAIN = Manner()


class Stretch(NamedTuple):
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
    def manner(self) -> Manner:
        """How it looks."""
        return Manner(self.bold, self.italic, self.language, *self[5:])


def stretch_of(text: str, manner: Manner) -> Stretch:
    """Characters in a manner."""
    rest: dict[str, Any] = dict(zip(Manner._fields[3:], manner[3:], strict=True))
    return Stretch(text, *manner[:3], **rest)


class Para(NamedTuple):
    """A paragraph; `style` is the name that the source gives its style.

    One of a list has its `level` there, from 1, and is numbered or has a bullet; its list begins
    anew `count_from` a number.  It `starts` on a new page, if it says so (as a style does), and
    others refer to it by the name of its `place`.
    """

    style: str
    stretches: tuple[Stretch, ...]
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
    def manner(self) -> Manner:
        """What it says of characters."""
        return Manner(
            bool(self.bold), bool(self.italic), None, bool(self.small_capitals), self.raised,
            bool(self.strike), bool(self.underline),
        )  # fmt: skip

    def in_words(self) -> str:
        """“Garamond 12 pt, bold, centred”."""
        size = f"{self.size:g} pt" if self.size else ""
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


class Gathering:
    """What a reader puts together, paragraph by paragraph."""

    def __init__(self) -> None:
        self.paragraphs: list[Para] = []
        self.notes: list[tuple[Stretch, ...]] = []
        self.pictures: list[Inlay] = []
        self.came: Counter[str] = Counter()
        self.left: Counter[str] = Counter()
        self.looks: dict[str, SourceLook] = {}
        self.characters: dict[str, SourceLook] = {}
        self._open: list[Stretch] = []
        self._list: tuple[int, bool, int | None] = (0, False, None)
        self._starts = self._place = ""
        self._said: set[int] = set()

    def put(self, text: str, manner: Manner = PLAIN) -> None:
        """Characters at the end of the open paragraph."""
        clean = _CONTROL.sub("", text)
        if not clean:
            return
        last = self._open[-1] if self._open else None
        if last is not None and last.beside is None and last.manner == manner:
            self._open[-1] = last._replace(text=last.text + clean)
        else:
            self._open.append(stretch_of(clean, manner))

    def add(self, stretch: Stretch) -> None:
        """A stretch that was taken out, at the end of the open paragraph."""
        if stretch.beside is not None:
            self._open.append(stretch)
        else:
            self.put(stretch.text, stretch.manner)

    def entry(self, level: int, numbered: bool, count_from: int | None = None) -> None:
        """The open paragraph is an entry of a list, on a level from 1."""
        self._list = (min(level, MOST_LEVELS), numbered, count_from)
        self.came["list entries"] += 1

    @property
    def open(self) -> bool:
        """Whether anything stands in the open paragraph."""
        return bool(self._open)

    def start(self, starts: str) -> None:
        """What comes next starts on a new page."""
        self._starts = starts

    def place(self, name: str) -> None:
        """The open paragraph is one that can be referred to by a name."""
        self._place = self._place or name

    def end(self, style: str) -> None:
        """The open paragraph is done."""
        self.paragraphs.append(
            Para(style, tuple(self._open), *self._list, self._starts, self._place)
        )
        self.came["paragraphs"] += 1
        self._open, self._list, self._starts, self._place = [], (0, False, None), "", ""

    def take(self) -> tuple[Stretch, ...]:
        """The open paragraph's stretches, taken out: those of a note, or of a cell."""
        taken, self._open = tuple(self._open), []
        return taken

    def put_back(self, stretches: tuple[Stretch, ...]) -> None:
        self._open = list(stretches)

    def note(self, stretches: tuple[Stretch, ...]) -> None:
        """A note, here and at the end."""
        self.notes.append(stretches)
        self.came["notes"] += 1
        self.again(len(self.notes))

    def again(self, number: int) -> None:
        """The number of a note; what it says goes with its first one."""
        said = number == len(self.notes) and number not in self._said
        self._said.add(number)
        beside = Noted(_stripped(self.notes[number - 1])) if said else None
        self._open.append(Stretch(str(number).translate(SUPERIORS), beside=beside))

    def term(self, termed: Termed) -> None:
        """An entry of the index."""
        clean = Termed(*(" ".join(_CONTROL.sub("", word).split())[:200] for word in termed))
        if clean.term:
            self._open.append(Stretch("", beside=clean))
            self.came["index entries"] += 1

    def refer(self, referring: Referring) -> None:
        """A reference to a paragraph that has a place."""
        self._open.append(Stretch("", beside=referring))
        self.came["references"] += 1

    def picture(self, pictured: Pictured) -> None:
        """A picture, here and in the tray."""
        self._open.append(Stretch("", beside=pictured))
        self.pictures.append(Inlay(pictured.name, pictured.data, len(self.paragraphs)))
        self.came["pictures"] += 1

    def done(self, name: str) -> Manuscript:
        """The manuscript, its notes numbered at the end."""
        for number, stretches in enumerate(self.notes, 1):
            head = Stretch(f"{number}\t")
            self.paragraphs.append(Para("Note", (head, *_stripped(stretches))))
        paragraphs = [p._replace(stretches=_stripped(p.stretches)) for p in self.paragraphs]
        used = {s.named for p in paragraphs for s in _all(p)} - {""}
        return Manuscript(
            name, _known(paragraphs), tuple(self.pictures), dict(self.came), dict(self.left),
            at_end=len(self.notes),
            looks={n: k for n, k in self.looks.items() if any(p.style == n for p in paragraphs)},
            characters={n: self.characters.get(n, SourceLook()) for n in sorted(used)},
        )  # fmt: skip


def _all(paragraph: Para) -> Iterator[Stretch]:
    """The stretches of a paragraph and of its notes."""
    for stretch in paragraph.stretches:
        yield stretch
        if isinstance(stretch.beside, Noted):
            yield from stretch.beside.words


def _known(paragraphs: list[Para]) -> tuple[Para, ...]:
    """With those places alone that are referred to, and those references alone that lead to one;
    others are what they say."""
    places = {p.place for p in paragraphs} - {""}
    wanted = {s.beside.place for p in paragraphs for s in p.stretches
              if isinstance(s.beside, Referring)} & places  # fmt: skip
    found = []
    for p in paragraphs:
        stretches = tuple(
            s._replace(text=s.beside.said, beside=None)
            if isinstance(s.beside, Referring) and s.beside.place not in wanted else s
            for s in p.stretches
        )  # fmt: skip
        found.append(p._replace(stretches=stretches, place=p.place if p.place in wanted else ""))
    return tuple(found)


def cleaned(value: Any) -> Any:
    """The same without characters that no file may hold, in whatever strings it has."""
    if isinstance(value, str):
        return _CONTROL.sub("", value)
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


def _stripped(stretches: tuple[Stretch, ...]) -> tuple[Stretch, ...]:
    """Without spaces at either end, and without empty stretches."""
    found = [s for s in stretches if s.text or s.beside is not None]
    while found and found[0].beside is None and not found[0].text.lstrip(" "):
        found.pop(0)
    while found and found[-1].beside is None and not found[-1].text.rstrip(" "):
        found.pop()
    if found:
        found[0] = found[0]._replace(text=found[0].text.lstrip(" "))
        found[-1] = found[-1]._replace(text=found[-1].text.rstrip(" "))
    return tuple(found)


def report_in_words(manuscript: Manuscript) -> str:
    """“412 paragraphs, 3 notes came; 2 comments were left out.”"""
    came = [f"{n:,} {_one(word, n)}" for word, n in manuscript.came.items() if n]
    left = [f"{n:,} {_one(word, n)}" for word, n in manuscript.left.items() if n]
    words = f"{_listed(came) or 'Nothing'} came"
    if left:
        one = len(left) == 1 and left[0].startswith("1 ")
        words += f"; {_listed(left)} {'was' if one else 'were'} left out"
    return words + "."


def _one(word: str, count: int) -> str:
    if count != 1:
        return word
    return f"{word[:-3]}y" if word.endswith("ies") else word.removesuffix("s")


def _listed(parts: list[str]) -> str:
    return ", ".join(parts[:-1]) + " and " + parts[-1] if len(parts) > 1 else "".join(parts)
