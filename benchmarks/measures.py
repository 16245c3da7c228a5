"""What is measured, each function on a large publication, and the yardsticks beside it."""

from __future__ import annotations

import gc
import json
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from statistics import median
from typing import NamedTuple

from benchmarks.publication import PAGES, large, page_texts
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.pages.order import move_pages
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.memory import MEMORY
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.storage.format import load, save
from hidden_frame.typeset import shaping


class Row(NamedTuple):
    """A measured value; `target` None is a yardstick or is only reported.

    `pace` is how much slower than in a quiet spell the machine was while it was measured, by
    the yardstick of the same run (`pace.yardstick`): a target in time holds for a quiet spell,
    and what is compared with it is the value divided by the pace.
    """

    name: str
    value: float
    unit: str
    target: float | None = None
    pace: float = 1.0

    @property
    def met(self) -> bool | None:
        if self.target is None:
            return None
        return self.value / (self.pace if self.unit in TIMES else 1.0) <= self.target


TIMES = ("ms", "s")


def _timed(work: Callable[[], object]) -> float:
    gc.collect()
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def _forget() -> None:
    """Empties every cache of set text and composed pages."""
    shaping._shaped.clear()
    shaping._settings.clear()
    MEMORY.clear_stale()
    MEMORY.clear_stale()


def _application():  # type: ignore[no-untyped-def]
    from PySide6.QtWidgets import QApplication

    from hidden_frame.desktop.look import theme

    app = QApplication.instance()
    if app is None:
        app = QApplication([])
        theme.load_fonts()
        theme.apply(app)  # type: ignore[arg-type]
    return app


def _window(publication, blobs):  # type: ignore[no-untyped-def]
    from hidden_frame.desktop.shell.window import Window
    from hidden_frame.desktop.state.session import Session

    app = _application()
    window = Window(Session(publication, blobs))
    window.files.may_leave = lambda: True  # type: ignore[method-assign]
    window.show()
    app.processEvents()
    return app, window


def open_to_painted() -> Iterator[Row]:
    """From a file on disk to the first spread on the screen."""
    _application()
    publication, blobs = large()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.hframe"
        seconds = _timed(lambda: save(path, publication, blobs))
        yield Row("save", seconds * 1000, "ms")
        _forget()

        def work() -> None:
            opened = load(path)
            _, window = _window(opened.publication, opened.blobs)
            window.desk.grab()
            window.close()

        yield Row("open to first page painted", _timed(work) * 1000, "ms")


def master_change() -> Iterator[Row]:
    """A property of the base master changed, until the spread is painted, and all is known."""
    publication, blobs = large()
    app, window = _window(publication, blobs)
    session = window.session
    session.composition.scenes()
    session.show_page(all_pages(publication)[200].id)
    window.desk.grab()
    base = publication.masters[0]
    item = base.items[0].id
    spread, everything = [], []
    for n in range(15):
        x = 31.0 + n
        window.thumbnails._timer.stop()
        gc.collect()
        start = time.perf_counter()
        session.edit("move", lambda p, x=x: change_items(p, base.id, {item: {"x": x}}))
        window.desk.repaint()
        spread.append(time.perf_counter() - start)
        session.composition.scenes()
        everything.append(time.perf_counter() - start)
    app.processEvents()
    window.close()
    yield Row("master change to spread painted", median(spread) * 1000, "ms", 16)
    yield Row("master change to all scenes known", median(everything) * 1000, "ms", 150)


def move_pages_to_front() -> Iterator[Row]:
    """50 pages moved to the front, their new folios known."""
    publication, _ = large()
    composition = Composer().compose(publication)
    composition.scenes()
    section = publication.sections[0].id
    maker = Composer()
    times = []
    for n in range(5):
        chosen = [p.id for p in all_pages(publication)][300 + n : 350 + n]
        times.append(
            _timed(lambda c=chosen: maker.compose(move_pages(publication, c, section, 0)).facts)
        )
    yield Row("move 50 pages to the front", median(times) * 1000, "ms", 50)


def layout_and_export() -> Iterator[Row]:
    """Layout of all text anew, in a process that has its fonts, and the export, beside
    QTextDocument and platypus."""
    publication, blobs = large()
    texts = page_texts()
    documents, layouts, again = [], [], []
    for _ in range(3):  # in turn, so that the machine's moods touch both alike
        documents.append(_timed(lambda: _qt_layout(texts)))
        _forget()
        layouts.append(_timed(lambda: _own_layout(texts)))
        again.append(_timed(lambda: _own_layout(texts)))
    document, layout = median(documents), median(layouts)
    yield Row("QTextDocument layout (yardstick)", document * 1000, "ms")
    yield Row("layout of all text anew", layout * 1000, "ms")
    yield Row("layout anew / QTextDocument", layout / document, "ratio", 0.5)
    yield Row("layout with its words known / QTextDocument", median(again) / document, "ratio")
    _forget()
    compose = _timed(lambda: Composer().compose(publication).scenes())
    yield Row("composition of every page anew", compose * 1000, "ms")
    flow = _timed(lambda: _platypus(texts, list(blobs.values())))
    yield Row("platypus flow to PDF (yardstick)", flow * 1000, "ms")
    _forget()
    export = _timed(lambda: pdf_bytes(Composer().compose(publication), blobs))
    yield Row("export to PDF, layout included", export * 1000, "ms")
    yield Row("export / platypus", export / flow, "ratio", 0.35)
    composition = Composer().compose(publication)
    composition.scenes()
    data: list[bytes] = []
    written = _timed(lambda: data.append(pdf_bytes(composition, blobs)))
    yield Row("export to PDF, pages composed", written * 1000, "ms")
    yield Row("size of the PDF", len(data[0]) / 1000, "kB")


def _own_layout(texts: list[str]) -> int:
    """The same words, width and size as Qt gets, neither side hyphenating."""
    from hidden_frame.typeset.fonts import font_book
    from hidden_frame.typeset.paragraph import ParagraphSpec, Span
    from hidden_frame.typeset.region import Region
    from hidden_frame.typeset.text import set_text

    setting = shaping.setting_of(font_book().face("Spectral"), 10.0)
    black = (0.0, 0.0, 0.0)
    lines = 0
    for text in texts:
        spec = ParagraphSpec((Span(text, setting, black),), setting, 14.0)
        blocks = set_text([spec], (Region(0.0, 340.0),)).fragments[0].blocks
        lines += sum(block.last - block.first for block in blocks)
    return lines


def one_paragraph() -> Iterator[Row]:
    """One of 4,000 paragraphs edited: the lines of all known again, beside setting all anew."""
    from hidden_frame.compose.palette import palette
    from hidden_frame.compose.textspec import specs
    from hidden_frame.edit.new import new_publication
    from hidden_frame.model.publication import Setup
    from hidden_frame.model.text import Paragraph, Run
    from hidden_frame.model.trims import TRIMS
    from hidden_frame.typeset.paragraphs import set_paragraph

    known = palette(new_publication("Book", Setup(trim=TRIMS["A5"])))
    words = " ".join(page_texts(pages=60)).split()
    text = tuple(
        Paragraph("body", (Run(" ".join(words[n * 31 % 9000 :][:60]) + f" {n}"),))
        for n in range(4_000)
    )
    _forget()
    anew = _timed(lambda: set_paragraph.each(specs(text, (), "recto", known), 340.0))
    times = []
    for n in range(25):
        middle = Paragraph("body", (Run(f"Changed {n}. " + text[2000].content[0].text),))  # type: ignore[union-attr]
        text = (*text[:2000], middle, *text[2001:])
        start = time.perf_counter()
        set_paragraph.each(specs(text, (), "recto", known), 340.0)
        times.append(time.perf_counter() - start)
    yield Row("lines of 4,000 paragraphs, all anew", anew * 1000, "ms")
    yield Row("one of them edited, lines known again", median(times) * 1000, "ms", 5)
    yield Row("one edited / all anew", median(times) / anew, "ratio")


def _qt_layout(texts: list[str]) -> float:
    from PySide6.QtGui import QFont, QTextDocument

    _application()
    font = QFont("Spectral")
    font.setPixelSize(10)
    height = 0.0
    for text in texts:
        document = QTextDocument()
        document.setDefaultFont(font)
        document.setTextWidth(340)
        document.setPlainText(text)
        height += document.size().height()
    return height


def _platypus(texts: list[str], pictures: list[bytes]) -> bytes:
    """The same words and pictures through reportlab's own flow layout."""
    import io

    from reportlab.lib.styles import ParagraphStyle
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.platypus import Image, PageBreak, Paragraph, SimpleDocTemplate

    from hidden_frame.resources import FONTS

    pdfmetrics.registerFont(TTFont("Spectral", FONTS / "Spectral-Regular.ttf"))
    style = ParagraphStyle("body", fontName="Spectral", fontSize=10, leading=14)
    story = []
    for number, text in enumerate(texts):
        picture = io.BytesIO(pictures[number % len(pictures)])
        story += [Paragraph(text, style), Image(picture, 90, 60), PageBreak()]
    buffer = io.BytesIO()
    SimpleDocTemplate(buffer, pagesize=(420, 595), leftMargin=36, rightMargin=36).build(story)
    return buffer.getvalue()


def peak_memory() -> Iterator[Row]:
    """Of a process of its own: window, every scene, 20 edits, save and export."""
    code = "from benchmarks.measures import _whole_session; _whole_session()"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    yield Row("peak memory", json.loads(done.stdout.splitlines()[-1]), "MB", 300)


def _whole_session() -> None:
    publication, blobs = large()
    app, window = _window(publication, blobs)
    session = window.session
    session.composition.scenes()
    base = publication.masters[0]
    for n in range(20):
        x = 31.0 + n
        session.edit("move", lambda p, x=x: change_items(p, base.id, {base.items[0].id: {"x": x}}))
        app.processEvents()
    with tempfile.TemporaryDirectory() as folder:
        save(Path(folder) / "a.hframe", session.publication, blobs)
        window.files.export_to(Path(folder) / "a.pdf")
    # Not getrusage: its peak is inherited from the parent process across a fork.
    status = Path("/proc/self/status").read_text()
    print(int(status.split("VmHWM:")[1].split()[0]) / 1024)


MEASURES: dict[str, Callable[[], Iterator[Row]]] = {
    "open": open_to_painted,
    "master": master_change,
    "move": move_pages_to_front,
    "layout": layout_and_export,
    "paragraph": one_paragraph,
    "memory": peak_memory,
}
TITLE = f"{PAGES} pages, 3 masters in a chain with 4 items each, 300 words and a picture a page"
