"""A manuscript put together by its reader, paragraph by paragraph."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from hidden_frame.storage.manuscripts.clock import Clock
from hidden_frame.storage.manuscripts.manuscript import (
    CONTROL,
    MOST_LEVELS,
    PLAIN,
    SUPERIORS,
    Inlay,
    Manuscript,
    ManuscriptRun,
    Noted,
    Para,
    Pictured,
    Referring,
    RunManner,
    SourceLook,
    Termed,
    stretch_of,
)


class Gathering:
    """What a reader puts together, paragraph by paragraph."""

    def __init__(self) -> None:
        self.paragraphs: list[Para] = []
        self.notes: list[tuple[ManuscriptRun, ...]] = []
        self.pictures: list[Inlay] = []
        self.came: Counter[str] = Counter()
        self.left: Counter[str] = Counter()
        self.looks: dict[str, SourceLook] = {}
        self.characters: dict[str, SourceLook] = {}
        self._open: list[ManuscriptRun] = []
        self._list: tuple[int, bool, int | None] = (0, False, None)
        self._starts = self._place = ""
        self._said: set[int] = set()
        self._clock = Clock()

    def put(self, text: str, manner: RunManner = PLAIN) -> None:
        """Characters at the end of the open paragraph."""
        clean = CONTROL.sub("", text)
        if not clean:
            return
        last = self._open[-1] if self._open else None
        if last is not None and last.beside is None and last.manner == manner:
            self._open[-1] = last._replace(text=last.text + clean)
        else:
            self._open.append(stretch_of(clean, manner))

    def add(self, stretch: ManuscriptRun) -> None:
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
        """The open paragraph is done.  Raises `TooSlow`."""
        self._clock.look()
        self.paragraphs.append(
            Para(style, tuple(self._open), *self._list, self._starts, self._place)
        )
        self.came["paragraphs"] += 1
        self._open, self._list, self._starts, self._place = [], (0, False, None), "", ""

    def take(self) -> tuple[ManuscriptRun, ...]:
        """The open paragraph's stretches, taken out: those of a note, or of a cell."""
        taken, self._open = tuple(self._open), []
        return taken

    def put_back(self, stretches: tuple[ManuscriptRun, ...]) -> None:
        self._open = list(stretches)

    def note(self, stretches: tuple[ManuscriptRun, ...]) -> None:
        """A note, here and at the end."""
        self.notes.append(stretches)
        self.came["notes"] += 1
        self.again(len(self.notes))

    def again(self, number: int) -> None:
        """The number of a note; what it says goes with its first one."""
        said = number == len(self.notes) and number not in self._said
        self._said.add(number)
        beside = Noted(_stripped(self.notes[number - 1])) if said else None
        self._open.append(ManuscriptRun(str(number).translate(SUPERIORS), beside=beside))

    def term(self, termed: Termed) -> None:
        """An entry of the index."""
        clean = Termed(*(" ".join(CONTROL.sub("", word).split())[:200] for word in termed))
        if clean.term:
            self._open.append(ManuscriptRun("", beside=clean))
            self.came["index entries"] += 1

    def refer(self, referring: Referring) -> None:
        """A reference to a paragraph that has a place."""
        self._open.append(ManuscriptRun("", beside=referring))
        self.came["references"] += 1

    def picture(self, pictured: Pictured) -> None:
        """A picture, here and in the tray."""
        self._open.append(ManuscriptRun("", beside=pictured))
        self.pictures.append(Inlay(pictured.name, pictured.data, len(self.paragraphs)))
        self.came["pictures"] += 1

    def done(self, name: str) -> Manuscript:
        """The manuscript, its notes numbered at the end."""
        for number, stretches in enumerate(self.notes, 1):
            head = ManuscriptRun(f"{number}\t")
            self.paragraphs.append(Para("Note", (head, *_stripped(stretches))))
        paragraphs = [
            _placed(p._replace(stretches=_stripped(p.stretches))) for p in self.paragraphs
        ]
        used = {s.named for p in paragraphs for s in _all(p)} - {""}
        return Manuscript(
            name, _known(paragraphs), tuple(self.pictures), dict(self.came), dict(self.left),
            at_end=len(self.notes),
            looks={n: k for n, k in self.looks.items() if any(p.style == n for p in paragraphs)},
            characters={n: self.characters.get(n, SourceLook()) for n in sorted(used)},
        )  # fmt: skip


_SMALL = 24.0  # points of height up to which a picture among words stands in their line
_PLAIN = ("Normal", "Body Text", "Text body")


def _placed(paragraph: Para) -> Para:
    """A paragraph whose pictures stand somewhere: one that holds nothing else is a “Picture”."""
    pictures = [s.beside for s in paragraph.stretches if isinstance(s.beside, Pictured)]
    if not any(picture.stands == "" for picture in pictures):
        return paragraph
    alone = len(pictures) == len(paragraph.stretches)

    def placed(stretch: ManuscriptRun) -> ManuscriptRun:
        picture = stretch.beside
        if not isinstance(picture, Pictured) or picture.stands:
            return stretch
        in_line = alone or picture.height <= _SMALL
        stands = "in the line" if in_line else "above the line"
        return stretch._replace(beside=picture._replace(stands=stands))

    style = "Picture" if alone and paragraph.style in _PLAIN else paragraph.style
    return paragraph._replace(style=style, stretches=tuple(map(placed, paragraph.stretches)))


def _all(paragraph: Para) -> Iterator[ManuscriptRun]:
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


def _stripped(stretches: tuple[ManuscriptRun, ...]) -> tuple[ManuscriptRun, ...]:
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
