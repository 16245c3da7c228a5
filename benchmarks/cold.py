"""Figures of a program that has just been started: each from a process of its own, with words as a
book has them, and each asserts that its work was done.

A child is `python -m benchmarks.cold NAME ARGUMENT…`; it prints what it measured as JSON.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from statistics import median
from typing import Any

from msgspec.structs import replace

from benchmarks.measures import Row, _application, _window
from benchmarks.natural import paragraphs, story_text
from benchmarks.stories import _ARABIC, long_story
from hidden_frame.compose.composer import Composer
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Paragraph, Run, Text
from hidden_frame.storage.format import load, save
from hidden_frame.typeset.known import KNOWN

WORDS = 200_000
_BOOK = 165_000  # words of the book that is opened and exported
_WIDE = 110.0 * 72 / 25.4


def cold_rows() -> Iterator[Row]:
    """Layout of 200,000 words beside `QTextDocument`, which neither divides words nor looks at
    paragraphs: processor time, five processes of each, in turn."""
    kinds = [(f"{form}, {name}", (form, language), target)
             for form, target in (("whole paragraphs", 1.0), ("words divided", 2.0))
             for language, name in (("en", "English"), ("de", "German"))]  # fmt: skip
    kinds.append(("whole paragraphs, Arabic", ("whole paragraphs", "ar"), 2.0))
    for name, arguments, target in kinds:
        ours, theirs = [], []
        for _ in range(3):
            ours.append(child("laid_out", *arguments)["seconds"])
            theirs.append(child("by_qt", arguments[1])["seconds"])
        yield Row(f"cold, {name}", median(ours) * 1000, "ms")
        yield Row(f"cold, {name} / QTextDocument", median(ours) / median(theirs), "ratio", target)


def opened_rows() -> Iterator[Row]:
    """A divided book opened: a page in its middle, the first key there, pages turned forward."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "book.hframe"
        save(path, book("en"), {})
        known = str(Path(folder) / "ends")
        anew = [child("opened", str(path), f"{known}{n}")["seen"] for n in range(3)]
        yield Row("page 400 of a divided book that nobody opened here", median(anew), "ms")
        child("left", str(path), known)
        found = [child("opened", str(path), known) for _ in range(3)]
    for name, key, target in (
        ("page 400 of one that was saved here", "seen", 100),
        ("first key on page 400 after opening", "key", 16),
        ("pages turned forward, median", "turn", 16), ("pages turned forward, worst", "worst", 33),
    ):  # fmt: skip
        yield Row(name, median(f[key] for f in found), "ms", target)


def export_rows() -> Iterator[Row]:
    """A divided book of 300 pages exported from the command line beside platypus, which divides
    nothing; and how the time grows from 1,000 to 3,000 pages."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "book.hframe"
        publication = book("en", 107_000)
        save(path, publication, {})
        pages = len(all_pages(publication))
        ours = median(_exported(path, pages) for _ in range(3))
        theirs = median(child("by_platypus", "107000")["seconds"] for _ in range(3))
        yield Row(f"{pages} divided pages exported / platypus", ours / theirs, "ratio", 0.8)
    few, many = (child("pages_exported", str(n))["seconds"] for n in (1000, 3000))
    import math

    yield Row("export's growth, 1,000 to 3,000 pages", math.log(many / few) / math.log(3),
              "exponent", 1.0)  # fmt: skip


def child(name: str, *arguments: str) -> Any:
    """What a function of this module measured in a process of its own."""
    command = [sys.executable, "-m", "benchmarks.cold", name, *arguments]
    done = subprocess.run(command, capture_output=True, text=True, check=True)
    return json.loads(done.stdout.splitlines()[-1])


def _exported(path: Path, pages: int) -> float:
    """Seconds of the processor for `hidden-frame export`."""
    import resource

    import pikepdf

    target = path.with_suffix(".pdf")
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    command = [sys.executable, "-m", "hidden_frame.cli", "export", str(path), str(target)]
    subprocess.run(command, check=True, capture_output=True)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    with pikepdf.open(target) as made:
        assert len(made.pages) == pages
    return after.ru_utime - before.ru_utime + after.ru_stime - before.ru_stime


def text_of(language: str, words: int) -> Text:
    """So many words of a language, in paragraphs."""
    if language != "ar":
        return story_text(language, words)
    found = []
    for n in range(words // 80):
        some = [_ARABIC[(n * 7 + k * 3 + k * k) % len(_ARABIC)] for k in range(80)]
        found.append(Paragraph("body", (Run(" ".join(some)),)))
    return tuple(found)


def book(language: str, words: int = _BOOK, divided: bool = True) -> Publication:
    """A story that flows through its pages, at rest."""
    publication, _, _, _ = long_story(text_of(language, words), divided=divided)
    return replace(publication, about=replace(publication.about, language=_CODES[language]))


_CODES = {"en": "en_GB", "de": "de_DE", "ar": "ar"}


# -- in a process of its own --------------------------------------------------------------------


def laid_out(form: str, language: str) -> dict[str, float]:
    """Every line of the story: its fonts, shapes, breaks and places, the first time."""
    publication = _loose(language, "divided" in form)
    story = publication.stories[0]
    begun = time.process_time()
    flow = Composer().compose(publication).flow(story.id)
    count = sum(part.text.count for part in flow.parts if part.text is not None)
    seconds = time.process_time() - begun
    letters = sum(len(c.text) for p in story.text for c in p.content if isinstance(c, Run))
    assert flow.rest is None and count > letters / 110, (flow.rest, count, letters)
    return {"seconds": seconds, "lines": count}


def _loose(language: str, divided: bool) -> Publication:
    """The book, with all its pages, made without laying anything out: pages enough for any."""
    from hidden_frame.edit.pages.order import add_pages

    publication, _, _, _ = long_story((Paragraph("body"),), divided=divided)
    section, story = publication.sections[0].id, publication.stories[0].id
    publication, _ = add_pages(publication, section, 1, WORDS // 150)
    stories = tuple(
        replace(s, text=text_of(language, WORDS), grows=False) if s.id == story else s
        for s in publication.stories
    )
    about = replace(publication.about, language=_CODES[language])
    return replace(publication, stories=stories, about=about)


def by_qt(language: str) -> dict[str, float]:
    """The same words in one `QTextDocument`."""
    from PySide6.QtCore import Qt
    from PySide6.QtGui import QFont, QTextDocument, QTextOption

    _application()
    plain = "\n".join("".join(c.text for c in p.content) for p in text_of(language, WORDS))  # type: ignore[union-attr]
    begun = time.process_time()
    document, font = QTextDocument(), QFont("Spectral")
    font.setPixelSize(10)
    document.setDefaultFont(font)
    document.setDefaultTextOption(QTextOption(Qt.AlignmentFlag.AlignJustify))
    document.setTextWidth(_WIDE)
    document.setPlainText(plain)
    height = document.size().height()
    seconds = time.process_time() - begun
    assert height > 10_000
    return {"seconds": seconds}


def by_platypus(words: str) -> dict[str, float]:
    """The same words set and written by platypus, with the start of its process."""
    from benchmarks.stories import _platypus

    made = _platypus(paragraphs("en", int(words)))
    assert made.startswith(b"%PDF") and len(made) > 100_000
    return {"seconds": time.process_time()}


def pages_exported(count: str) -> dict[str, float]:
    """Pages of 300 words each, as a PDF."""
    from benchmarks.publication import large
    from hidden_frame.output.pdf import pdf_bytes

    publication, blobs = large(int(count))
    begun = time.process_time()
    made = pdf_bytes(Composer().compose(publication), blobs)
    seconds = time.process_time() - begun
    assert len(made) > 2_000 * int(count)
    return {"seconds": seconds}


def left(path: str, known: str) -> dict[str, float]:
    """What the program leaves behind of a file that it laid out and saved."""
    KNOWN.open(Path(known))
    publication = load(Path(path)).publication
    flow = Composer().compose(publication).flow(publication.stories[0].id)
    assert flow.rest is None
    KNOWN.close()
    return {"bytes": Path(known).stat().st_size}


def opened(path: str, known: str) -> dict[str, float]:
    """The real window on a file: milliseconds to a page in the middle, of a key there, of turns."""
    KNOWN.open(Path(known))
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    _application()
    found = load(Path(path))
    app, window = _window(found.publication, found.blobs)
    session, desk = window.session, window.desk
    pages = [p.id for p in all_pages(session.publication)]
    assert len(pages) > 445, len(pages)
    begun = time.perf_counter()
    session.show_page(pages[399])
    desk.repaint()
    seen = (time.perf_counter() - begun) * 1000
    turns = []
    for page in pages[402:442:2]:
        begun = time.perf_counter()
        session.show_page(page)
        desk.repaint()
        turns.append((time.perf_counter() - begun) * 1000)
        app.processEvents()
    session.show_page(pages[399])
    desk.repaint()
    flow = session.composition.flow(session.publication.stories[0].id)
    desk.text.write_at(session.publication.stories[0].id, (flow.start_of(399)[0] + 1, 0))
    desk.setFocus()
    before = session.history.now
    begun = time.perf_counter()
    QTest.keyClick(desk, "x", Qt.KeyboardModifier.NoModifier)
    desk.repaint()
    key = (time.perf_counter() - begun) * 1000
    assert session.history.now is not before
    return {"seen": seen, "key": key, "turn": median(turns), "worst": max(turns)}


if __name__ == "__main__":
    CHILDREN: dict[str, Callable[..., dict[str, float]]] = {
        f.__name__: f for f in (laid_out, by_qt, by_platypus, pages_exported, left, opened)
    }
    print(json.dumps(CHILDREN[sys.argv[1]](*sys.argv[2:])))
