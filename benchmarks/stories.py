"""A story of 200,000 words through some 600 pages: laid out anew, typed into, its master changed,
brought in, exported, edited a thousand times."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator
from statistics import median, quantiles

from msgspec.structs import replace

from benchmarks.measures import Row, _application, _forget, _timed, _window
from benchmarks.natural import story_text
from benchmarks.publication import page_texts
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.palette import palette
from hidden_frame.compose.textspec import specs
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.masters.apply import add_master, set_default_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.memory import settle
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.styles import Rule
from hidden_frame.model.text import Marker, Paragraph, Run, Text
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.text import set_text

WORDS = 200_000
_MEASURE, _NARROW = 110.0 * 72 / 25.4, 65.0 * 72 / 25.4  # points


def manuscript() -> Text:
    """So many English words in paragraphs of 20 to 150."""
    return story_text("en", WORDS)


def long_story(
    text: Text | None = None, measure: float = _MEASURE, divided: bool = False
) -> tuple[Publication, str, str, str]:
    """The publication at rest, the ids of its story, its master and that master's main frame."""
    publication = new_publication("Long", Setup(trim=TRIMS["A5"]), 2)
    body = replace(publication.paragraph_styles[0], alignment="justified", hyphenate=divided)
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=50, y=50, width=measure, height=460, main=1)
    publication, item = add_item(publication, master, frame)
    folio = TextFrame(
        id="", x=50, y=540, width=_MEASURE, height=14,
        text=(Paragraph("folio", (Marker("folio"),)),),
    )  # fmt: skip
    publication, _ = add_item(publication, master, folio)
    publication = set_default_masters(publication, (master,))
    section = publication.sections[0].id
    publication, story = pour(publication, section, text or manuscript(), "Long")
    return settled(publication), story, master, item


def flowing() -> Iterator[Row]:
    """Layout of the whole story, all forgotten but the fonts, beside QTextDocument with the same
    words and width, with the collector as the program sets it."""
    from PySide6.QtCore import Qt
    from PySide6.QtGui import QFont, QTextDocument, QTextOption

    _application()
    publication, story, _, _ = long_story()
    plain = ["".join(c.text for c in p.content) for p in find_story(publication, story).text]  # type: ignore[union-attr]
    narrow, _, _, _ = long_story(measure=_NARROW)
    first_fit = _one_by_one(publication)
    settle()

    def qt(measure: float) -> float:
        document, font = QTextDocument(), QFont("Spectral")
        font.setPixelSize(10)
        document.setDefaultFont(font)
        document.setDefaultTextOption(QTextOption(Qt.AlignmentFlag.AlignJustify))
        document.setTextWidth(measure)
        document.setPlainText("\n".join(plain))
        return document.size().height()

    def ours(laid_out: Publication) -> float:
        _forget()
        return _timed(lambda: Composer().compose(laid_out).flow(story).rest)

    times = [
        (_timed(lambda: qt(_MEASURE)), ours(first_fit), ours(publication),
         _timed(lambda: qt(_NARROW)), ours(narrow), ours(_hyphenated(publication)))
        for _ in range(5)
    ]  # fmt: skip
    wide, first, whole, beside, columns, divided = (median(c) for c in zip(*times, strict=True))
    pages = len(all_pages(publication))
    yield Row("QTextDocument, 200,000 words justified (yardstick)", wide * 1000, "ms")
    yield Row(f"a story on {pages} pages anew, over whole paragraphs", whole * 1000, "ms")
    yield Row("a story anew, line by line / QTextDocument", first / wide, "ratio", 0.5)
    yield Row("a story anew, whole paragraphs / QTextDocument", whole / wide, "ratio", 1.0)
    yield Row("the same at 65 mm", columns / beside, "ratio", 1.25)
    yield Row("the same at 110 mm with words divided", divided / wide, "ratio")
    _forget()
    export = _timed(lambda: pdf_bytes(Composer().compose(publication), {}))
    yield Row("the same exported to PDF, layout included", export * 1000, "ms")
    flow = _timed(lambda: _platypus(plain))
    yield Row("platypus, the same words (yardstick)", flow * 1000, "ms")
    yield Row("story exported / platypus", export / flow, "ratio", 0.4)


def _one_by_one(publication: Publication) -> Publication:
    return _restyled(publication, breaking="line")


def _hyphenated(publication: Publication) -> Publication:
    return _restyled(publication, hyphenate=True)


def _restyled(publication: Publication, **changes: object) -> Publication:
    body = replace(publication.paragraph_styles[0], **changes)
    return replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))


def _platypus(plain: list[str]) -> bytes:
    import io

    from reportlab.lib.styles import ParagraphStyle
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.platypus import Paragraph as Flowed
    from reportlab.platypus import SimpleDocTemplate

    from hidden_frame.resources import FONTS

    pdfmetrics.registerFont(TTFont("Spectral", FONTS / "Spectral-Regular.ttf"))
    style = ParagraphStyle("body", fontName="Spectral", fontSize=10, leading=14, alignment=4)
    buffer = io.BytesIO()
    SimpleDocTemplate(buffer, pagesize=(420, 595), leftMargin=50, rightMargin=58).build(
        [Flowed(text, style) for text in plain]
    )
    return buffer.getvalue()


def writing() -> Iterator[Row]:
    """A key in the middle of 600 pages, painted; the main frame's height changed on its master."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    publication, story, master, item = long_story()
    app, window = _window(publication, {})
    session, desk = window.session, window.desk
    middle = len(find_story(publication, story).text) // 2
    desk.text.write_at(story, (middle, 10))
    desk.setFocus()
    desk.camera.fit_to("spread")
    app.processEvents()
    window.thumbnails.finish()
    times = []
    for letter in "the sky is clear again tonight and " * 3:
        start = time.perf_counter()
        QTest.keyClick(desk, letter, Qt.KeyboardModifier.NoModifier)
        desk.repaint()
        times.append((time.perf_counter() - start) * 1000)
        app.processEvents()
    yield Row("a key in the middle of a story, median", median(times), "ms", 16)
    yield Row("a key in the middle of a story, 95th percentile", quantiles(times, n=20)[-1], "ms",
              33)  # fmt: skip
    behind = []
    for n in range(5):
        text = session.publication.stories[0].text
        longer = (*text[:middle], Paragraph("body", (Run(f"A new paragraph {n}. " * 30),)),
                  *text[middle:])  # fmt: skip
        start = time.perf_counter()
        session.edit("more", lambda p, t=longer: set_story_text(p, story, t))
        session.composition.scenes()
        behind.append((time.perf_counter() - start) * 1000)
    yield Row("a paragraph more, all pages behind it right", median(behind), "ms", 300)
    session.edit_text(None)
    session.show_page(all_pages(session.publication)[300].id)
    spread, known = [], []
    for n in range(5):
        start = time.perf_counter()
        height = 455.0 - 5 * n
        session.set_draft(change_items(session.history.now, master, {item: {"height": height}}))
        desk.repaint()
        spread.append((time.perf_counter() - start) * 1000)
        session.composition.scenes()
        known.append((time.perf_counter() - start) * 1000)
    session.set_draft(None)
    yield Row("main frame's height changed, the spread painted", median(spread), "ms", 50)
    yield Row("main frame's height changed, all pages known", median(known), "ms", 400)
    window.close()


def bringing_in() -> Iterator[Row]:
    """A .docx of 300 pages read, its styles matched, poured and grown."""
    from hidden_frame.edit.text.bring import brought
    from hidden_frame.storage.manuscripts.manuscript import ManuscriptRun, Para
    from hidden_frame.storage.manuscripts.read import of_bytes
    from hidden_frame.storage.manuscripts.write import written

    text = manuscript()[: 3350 * 2 // 3]
    paragraphs = [
        Para("Heading 1" if n % 60 == 0 else "Normal",
             (ManuscriptRun(p.content[0].text), ManuscriptRun(" slanted", italic=True)))  # type: ignore[union-attr]
        for n, p in enumerate(text)
    ]  # fmt: skip
    data = written(paragraphs, "docx")
    empty, _, _, _ = long_story((Paragraph("body"),))

    def bring() -> None:
        source = of_bytes(data, "long", "long.docx", "docx")
        publication, brought_text = brought(empty, source)
        settled(pour(publication, publication.sections[0].id, brought_text)[0])

    yield Row("a .docx of 100,000 words brought in and grown", _timed(bring), "s", 5)


def edits() -> Iterator[Row]:
    """Memory of a process of its own after a thousand edits in the middle."""
    code = "from benchmarks.stories import _thousand; _thousand()"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    yield Row("peak memory after 1,000 edits of a story", float(done.stdout), "MB", 400)


def _thousand() -> None:
    from pathlib import Path

    publication, story, _, _ = long_story()
    app, window = _window(publication, {})
    text = window.session.publication.stories[0].text
    middle = len(text) // 2
    window.desk.text.write_at(story, (middle, 10))
    for n in range(1000):
        window.desk.text.insert("a " if n % 2 else "word")
        if n % 10 == 0:
            app.processEvents()
    status = Path("/proc/self/status").read_text()
    print(int(status.split("VmHWM:")[1].split()[0]) / 1024)


# Made-up sentences; Arabic and Hebrew words mean “the sky in winter is full of distant stars”.
_ARABIC = [
    "السماء",
    "في",
    "الشتاء",
    "مليئة",
    "بالنجوم",
    "البعيدة",
    "ونحن",
    "نعد",
    "كل",
    "ليلة",
    "ثم",
    "نكتب",
    "أسماءها",
]
_FEATURES = {
    "case": "small capitals", "figures": "old style", "figure_width": "proportional",
    "fractions": True, "underline": True, "strike": True, "shift": 1.0, "hyphenate": True,
    "letter_space": 20.0, "hanging_punctuation": True, "drop_lines": 3, "on_grid": True,
    "keep_together": True, "rule_below": Rule(),
}  # fmt: skip


def scripts() -> Iterator[Row]:
    """Pages of 300 words anew, to the places of their words: plain, with everything that a style
    can ask for, and in Arabic."""
    words = [" ".join(page_texts(pages=1)).split()[:300] for _ in range(30)]
    arabic = [[_ARABIC[(n * 7 + k * 3) % len(_ARABIC)] for k in range(300)] for n in range(30)]
    plain = new_publication("Pages", Setup(trim=TRIMS["A5"]), 1)
    body = replace(plain.paragraph_styles[0], alignment="justified", hyphenate=False)
    plain = replace(plain, paragraph_styles=(body, *plain.paragraph_styles[1:]))

    def laid_out(publication: Publication, pages: list[list[str]]) -> float:
        def work() -> None:
            for page in pages:
                text = tuple(
                    Paragraph("body", (Run(" ".join(page[k : k + 60])),)) for k in range(0, 300, 60)
                )
                known = palette(publication)
                done = set_text(specs(text, (), "recto", known), [Region(0.0, _MEASURE)])
                for line in done.lines:
                    for run in line.runs:
                        run.xs  # noqa: B018

        _forget()
        return _timed(work)

    rich = _restyled(plain, **_FEATURES)
    times = [
        (laid_out(plain, words), laid_out(rich, words), laid_out(plain, arabic)) for _ in range(7)
    ]
    one, all_on, other = (median(column) for column in zip(*times, strict=True))
    yield Row("30 pages of 300 words, plain", one * 1000, "ms")
    yield Row("with all features on / plain", all_on / one, "ratio", 2.0)
    yield Row("in Arabic / plain", other / one, "ratio", 2.0)
