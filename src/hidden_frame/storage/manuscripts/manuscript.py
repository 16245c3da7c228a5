"""A manuscript in a form that knows no file format: paragraphs in named styles, with emphasis."""

from __future__ import annotations

import re
from collections import Counter
from typing import NamedTuple

MAX_BYTES = 200_000_000  # of a part of a file, unpacked
LINE_BREAK = "\u2028"
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


class Stretch(NamedTuple):
    """Characters in one look; a tab is U+0009, a line break U+2028.

    One that stands for something `beside` the text shows a note's number, or nothing.
    """

    text: str
    bold: bool = False
    italic: bool = False
    language: str | None = None
    beside: Noted | Termed | None = None


class Para(NamedTuple):
    """A paragraph; `style` is the name that the source gives its style."""

    style: str
    stretches: tuple[Stretch, ...]

    @property
    def text(self) -> str:
        return "".join(s.text for s in self.stretches)


class Inlay(NamedTuple):
    """A picture in a text: its file's name and bytes, and the paragraph that it stood in."""

    name: str
    data: bytes
    paragraph: int


class Manuscript(NamedTuple):
    """All that was read; `left` counts by name what was left out, `came` what came; `encoding` is
    that of a plain text, as Python names it.  The last paragraphs, so many as `at_end` says, are
    notes, which stand beside the text too."""

    name: str
    paragraphs: tuple[Para, ...]
    pictures: tuple[Inlay, ...]
    came: dict[str, int]
    left: dict[str, int]
    encoding: str = ""
    at_end: int = 0

    def with_live_notes(self) -> Manuscript:
        """The notes stand beside the text alone, to be numbered and listed by the program."""
        kept = self.paragraphs[: len(self.paragraphs) - self.at_end]
        return self._replace(paragraphs=kept, at_end=0)

    def with_notes_at_end(self) -> Manuscript:
        """The notes are paragraphs at the end, and their numbers mere figures."""
        return self._replace(paragraphs=tuple(_written_out(p) for p in self.paragraphs))

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
        self._open: list[Stretch] = []
        self._said: set[int] = set()

    def put(self, text: str, bold: bool = False, italic: bool = False,
            language: str | None = None) -> None:  # fmt: skip
        """Characters at the end of the open paragraph."""
        clean = _CONTROL.sub("", text)
        if not clean:
            return
        last = self._open[-1] if self._open else None
        if last is not None and last[1:] == (bold, italic, language, None):
            self._open[-1] = last._replace(text=last.text + clean)
        else:
            self._open.append(Stretch(clean, bold, italic, language))

    def add(self, stretch: Stretch) -> None:
        """A stretch that was taken out, at the end of the open paragraph."""
        if stretch.beside is not None:
            self._open.append(stretch)
        else:
            self.put(*stretch[:4])

    def end(self, style: str) -> None:
        """The open paragraph is done."""
        self.paragraphs.append(Para(style, tuple(self._open)))
        self.came["paragraphs"] += 1
        self._open = []

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

    def picture(self, name: str, data: bytes) -> None:
        self.pictures.append(Inlay(name, data, len(self.paragraphs)))
        self.came["pictures"] += 1

    def done(self, name: str) -> Manuscript:
        """The manuscript, its notes numbered at the end."""
        for number, stretches in enumerate(self.notes, 1):
            head = Stretch(f"{number}\t")
            self.paragraphs.append(Para("Note", (head, *_stripped(stretches))))
        paragraphs = tuple(Para(p.style, _stripped(p.stretches)) for p in self.paragraphs)
        return Manuscript(
            name, paragraphs, tuple(self.pictures), dict(self.came), dict(self.left),
            at_end=len(self.notes),
        )  # fmt: skip


def _written_out(paragraph: Para) -> Para:
    """A paragraph without live notes."""
    if not any(isinstance(s.beside, Noted) for s in paragraph.stretches):
        return paragraph
    plain = (
        s._replace(beside=None) if isinstance(s.beside, Noted) else s for s in paragraph.stretches
    )
    return paragraph._replace(stretches=tuple(plain))


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
