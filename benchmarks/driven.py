"""What text drives, at the size of a large book: a running head on each of 600 pages, 200 headings,
2,000 index marks, 12 rules for masters, a contents list, an index, 200 references."""

from __future__ import annotations

import time
from collections.abc import Iterator
from statistics import median

from msgspec.structs import replace

from benchmarks.measures import Row, _timed, _window
from benchmarks.stories import manuscript
from benchmarks.whole_file import to_bytes
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.masters.rules import add_rule
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour, set_story_text, start_story
from hidden_frame.edit.text.listing import list_style, set_list
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import (
    Contents,
    Head,
    Index,
    IndexMark,
    ListLevel,
    Marker,
    Paragraph,
    Reference,
    Run,
    Text,
)
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes

HEADINGS, MARKS, RULES, REFERENCES = 200, 2000, 12, 200


def _text() -> Text:
    """The long story with a heading every so often, index marks and references."""
    plain = manuscript()
    every = len(plain) // HEADINGS
    found: list[Paragraph] = []
    marks = headings = 0
    for n, paragraph in enumerate(plain):
        if n % every == 0 and headings < HEADINGS:
            found.append(
                Paragraph("title", (Run(f"Heading {headings}"),), place=f"place-{9000 + headings}")
            )
            headings += 1
        content = list(paragraph.content)
        if marks < MARKS:
            content.append(IndexMark(f"Term {marks % 700}", f"sub {marks % 3}"))
            marks += 1
        if n % (len(plain) // REFERENCES) == 0:
            to = f"place-{9000 + n * 7 % HEADINGS}"
            content.append(Marker("reference", refers=Reference(to, "folio")))
        found.append(replace(paragraph, content=tuple(content)))
    return tuple(found)


def driven_book() -> tuple[Publication, str]:
    """The publication at rest, and the id of its story."""
    publication = new_publication("Driven", Setup(trim=TRIMS["A5"]), 4)
    publication = replace(publication, next_id=20_000)
    body = replace(publication.paragraph_styles[0], alignment="justified")
    publication = put_paragraph_style(publication, body)
    title = ParagraphStyle(id="title", name="Title", size=16, leading=20, space_before=12,
                           number=ListNumber(form="{1}"), keep_next=True)  # fmt: skip
    publication = put_paragraph_style(publication, title)
    publication, lines = list_style(publication, 0, "body")
    masters = []
    for n in range(3):
        publication, master = add_master(publication, f"Text {n}")
        frame = TextFrame(id="", x=50, y=50, width=310, height=460 - 8 * n, main=1)
        publication, _ = add_item(publication, master, frame)
        head = (Marker("running head", head=Head("title", part="number and text")),)
        publication, _ = add_item(publication, master, TextFrame(
            id="", x=50, y=20, width=310, height=14, text=(Paragraph("body", head),)
        ))  # fmt: skip
        masters.append(master)
    publication = replace(publication, default_masters=(masters[0],))
    publication, rest = start_section(publication, all_pages(publication)[2].id, "Body")
    for n in range(RULES):
        when = ("style", "last", "no text", "style")[n % 4]
        publication, _ = add_rule(publication, when=when, style="title",
                                  masters=(masters[1 + n % 2],), sections=(rest,))  # fmt: skip
    publication, story = pour(publication, rest, _text(), "Driven")
    for n, made in enumerate(("contents", "index")):
        page = all_pages(publication)[n].id
        publication, item = add_item(
            publication, page, TextFrame(id="", x=40, y=40, width=330, height=500, columns=2)
        )
        publication, _ = start_story(publication, page, item)
        if made == "contents":
            publication = set_list(
                publication, page, item, Contents(levels=(ListLevel("title", lines),))
            )
        else:
            publication = set_list(publication, page, item, Index(shown="body", letters="body"))
    return settled(publication), story


def driven() -> Iterator[Row]:
    """A letter of a heading typed, until its spread is painted, and until every page, list and
    bookmark says it; the file opened."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    from hidden_frame.output.pdf.links import bookmarks

    publication, story = driven_book()
    data = to_bytes(publication, {})

    def opening() -> None:
        opened = from_bytes(data, "driven").publication
        composition = Composer().compose(opened)
        composition.scene(all_pages(opened)[2].id)

    app, window = _window(publication, {})
    session, desk = window.session, window.desk
    text = find_story(publication, story).text
    heading = next(n for n, p in enumerate(text) if p.style == "title" and n > len(text) // 2)
    desk.text.write_at(story, (heading, 3))
    desk.setFocus()
    desk.camera.fit_to("spread")
    app.processEvents()
    window.thumbnails.finish()
    session.composition.scenes()
    spread, everywhere = [], []
    for letter in "winter skies ":
        start = time.perf_counter()
        QTest.keyClick(desk, letter, Qt.KeyboardModifier.NoModifier)
        desk.repaint()
        spread.append((time.perf_counter() - start) * 1000)
        session.composition.scenes()
        bookmarks(session.composition)
        everywhere.append((time.perf_counter() - start) * 1000)
        app.processEvents()
    pages = len(all_pages(session.publication))
    yield Row(f"a heading's letter among {pages} pages, the spread painted", median(spread), "ms",
              50)  # fmt: skip
    yield Row("the same, all heads, lists and bookmarks", median(everywhere), "ms", 400)
    longer = []
    for n in range(3):
        now = find_story(session.publication, story).text
        more = (*now[:40], Paragraph("body", (Run(f"More words {n}. " * 60),)), *now[40:])
        start = time.perf_counter()
        session.edit("more", lambda p, t=more: set_story_text(p, story, t))
        session.composition.scenes()
        longer.append((time.perf_counter() - start) * 1000)
    yield Row("a paragraph more in front, all pages and lists right", median(longer), "ms")
    window.close()
    yield Row("the file opened, its first page known", _timed(opening) * 1000, "ms", 1500)
