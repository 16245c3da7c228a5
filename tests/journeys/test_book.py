"""A book from a manuscript, from the start window to what goes back to the author."""

from __future__ import annotations

import io
from pathlib import Path

import pdfplumber
from PySide6.QtWidgets import QAbstractButton
from tests.journeys.hands import Hands
from tests.journeys.manuscript import LONG, words_of, write

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import page_facts
from hidden_frame.model.lookup import all_pages
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import load
from hidden_frame.storage.manuscripts.read import read


def story_of(hands: Hands):
    return hands.publication.stories[0]


def said(publication) -> str:
    """What the pages say of the story, without spaces and hyphens, page after page."""
    flow = Composer().compose(publication).flow(publication.stories[0].id)
    assert flow.rest is None
    lines = [line.text for part in flow.parts for line in part.text.lines]
    return bare("".join(lines))


def bare(text: str) -> str:
    return "".join(c for c in text if c.isalpha())


def stands(publication) -> dict[str, str]:
    """What of the story stands on each page."""
    flow = Composer().compose(publication).flow(publication.stories[0].id)
    found: dict[str, str] = {}
    for stop, part in zip(flow.stops, flow.parts, strict=True):
        if part.lines:
            text = "".join(line.text for line in part.text.lines)
            found[stop.page_id] = found.get(stop.page_id, "") + bare(text)
    return found


def exported(hands: Hands, path: Path) -> bytes:
    """The book as a PDF, as it is exported from the window."""
    hands.step("export")
    hands.keys("Ctrl+e")
    hands.press("Export…")
    hands.file(path)
    hands.until(lambda: path.exists() and path.stat().st_size > 1000, "no PDF is written", 60)
    hands.rest()
    return path.read_bytes()


def saved(hands: Hands, path: Path):
    """The book as it is in its file."""
    hands.step("save")
    hands.keys("Ctrl+s")
    hands.until(lambda: not hands.session.modified, "it is not saved", 60)
    return load(path).publication


def headings(publication, style: str) -> dict[str, str]:
    """On which page each heading of a style stands."""
    story = publication.stories[0]
    flow = Composer().compose(publication).flow(story.id)
    ids = {s.name: s.id for s in publication.paragraph_styles}
    found = {}
    for n, paragraph in enumerate(story.text):
        if paragraph.style == ids[style]:
            words = "".join(getattr(c, "text", "") for c in paragraph.content)
            found[words] = flow.stops[flow.stop_of(n, 0)].page_id
    return found


def check_contents(data: bytes, publication) -> None:
    """The folios of the list, by where they stand in the PDF, are those of the pages on which the
    headings stand; each is whole, at the right edge, and nothing stands outside."""
    facts = page_facts(publication)
    wanted = headings(publication, "Heading") | headings(publication, "Heading 2")
    with pdfplumber.open(io.BytesIO(data)) as opened:
        page = next(
            p for p in opened.pages if "Contents" in (p.extract_text() or "").split("\n")[:2]
        )
        words = page.extract_words(use_text_flow=False)
        lines = page.extract_text_lines()
        edge = max(w["x1"] for w in words)
        assert edge < page.width and min(w["x0"] for w in words) > 0
    said = " ".join(line["text"].replace(".", " ") for line in lines)
    for title, there in wanted.items():
        assert bare(title) in bare(said), title
        last = title.split()[-1]
        folio = facts[there].folio
        ends = [w for w in words if w["text"].strip(".") == folio and abs(w["x1"] - edge) < 1.0]
        rows = [w for w in words if last in w["text"]]
        assert any(abs(e["bottom"] - r["bottom"]) < 2.0 for e in ends for r in rows), (title, folio)


def check_heads(data: bytes, publication) -> None:
    """The head of each page is the first section that begins there, or that goes on; none before
    the first one of a chapter (read from the front, with nothing of the program)."""
    facts = page_facts(publication)
    begun: dict[int, list[tuple[int, str]]] = {}
    story, at = publication.stories[0], headings(publication, "Heading")
    order = [("".join(getattr(c, "text", "") for c in p.content), p.style) for p in story.text]
    both = at | headings(publication, "Heading 2")
    for n, (words, _) in enumerate(order):
        if words in both:
            begun.setdefault(facts[both[words]].position, []).append((n, words))
    now = ""
    with pdfplumber.open(io.BytesIO(data)) as opened:
        for position, page in enumerate(opened.pages, 1):
            here = [w for _, w in sorted(begun.get(position, []))]
            sections = [w for w in here if w not in at]
            shown = sections[0] if sections else "" if here else now
            if here:
                now = here[-1] if here[-1] not in at else ""
            top = page.crop((0, 0, page.width, 36)).extract_text() or ""
            if position < len(opened.pages) - 1:
                assert bare(top) == bare(shown), (position, top, shown)


def test_a_day_with_a_book(day, tmp_path):
    source, book, pdf = tmp_path / "nights.docx", tmp_path / "nights.hframe", tmp_path / "n.pdf"
    author = write(source)

    def journey(hands: Hands) -> None:
        hands.step("a pocket book from the start window")
        hands.press("Pocket book")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.rest()

        hands.step("the manuscript comes in")
        hands.keys("Ctrl+Shift+i")
        hands.file(source)
        hands.press("Bring in")
        hands.gone(60)
        hands.seen("42 list entries")
        publication = hands.publication
        assert said(publication) == bare("".join(words_of(author)))
        pages = len(all_pages(publication))
        assert pages > 40

        hands.step("the wheel looks along the Run, and changes nothing")
        bar = hands.ask(lambda: hands.window.run.horizontalScrollBar())
        hands.fingers.wheel(*hands.place_of(hands.ask(lambda: hands.window.run)), 6)
        hands.until(lambda: bar.value() > 0, "the Run does not move")
        assert hands.publication is publication

        hands.step("it is saved under a name")
        hands.keys("Ctrl+Shift+s")
        hands.file(book)
        hands.until(lambda: book.exists() and not hands.session.modified, "it is not saved", 60)
        assert said(load(book).publication) == bare("".join(words_of(author)))

        hands.step("page 1 is the fifth page: the text stays where it is")
        before = stands(hands.publication)
        hands.ask(lambda: hands.session.show_page(all_pages(hands.session.publication)[4].id))
        hands.menu("Sections", "Make this page number 1")
        after = hands.publication
        assert stands(after) == before and len(all_pages(after)) == pages
        assert len(after.sections) == 2

        hands.step("a section begins with a heading, and follows it")
        ledger = next(p for p, text in before.items() if "TheLedger" in text)
        hands.ask(lambda: hands.session.show_page(ledger))
        hands.menu("Sections", "Start a section here…")
        hands.seen("The Ledger")
        hands.fill("Name", "Ledger")
        hands.press("Start section")
        hands.gone()
        assert stands(hands.publication) == before
        assert hands.publication.sections[-1].pages[0].id == ledger

        hands.step("words written at the head of the book move the section with its heading")
        first = next(iter(before))
        hands.ask(lambda: hands.session.show_page(first))
        hands.rest()
        x, y = hands.on_page(110, 150)
        hands.fingers.click(x, y, times=2)
        hands.rest()
        hands.keys("Ctrl+Home", "Down", "Down", "Home")
        hands.type("Before all of this. " * 60)
        hands.keys("Esc")
        now = hands.publication
        moved = next(p for p, text in stands(now).items() if "TheLedger" in text)
        section = next(s for s in now.sections if s.name == "Ledger")
        assert section.pages[0].id == moved
        assert bare("Before all of this.") * 60 in said(now)
        assert moved != ledger

        hands.step("all of it is undone")
        count = hands.ask(lambda: len(hands.session.history.past))
        for _ in range(count + 4):
            hands.fingers.keys("Ctrl+z")
        hands.rest()
        hands.until(lambda: not hands.session.history.past, "not all is undone")
        for _ in range(count + 4):
            hands.fingers.keys("Ctrl+Shift+z")
        hands.rest()
        assert hands.publication == now

        hands.step("an opener for chapters, and one without a frame for text")
        for name, base in (("Opener", "Base"), ("Plate", "")):
            hands.menu("Masters", "New master…")
            hands.fill("Name", name)
            if base:
                hands.choose("Starts as", "based on another master")
                hands.choose("Which master", base)
            hands.press("Make it")
            hands.gone()
        hands.press("Pages")
        count = len(all_pages(hands.publication))

        hands.step("a rule that takes text no room is told, and changes nothing")
        hands.menu("Masters", "Masters by rule…")
        hands.press("New rule")
        hands.seen("Catches 7 pages")
        hands.choose("Follows", "Plate")
        hands.seen("Plate has no main frame")
        hands.choose("Follows", "Opener")
        hands.seen("Catches 7 pages")
        hands.press("Keep")
        hands.gone()
        assert len(all_pages(hands.publication)) == count
        assert said(hands.publication) == said(now)

        hands.step("a head for sections, on the master")
        hands.press("Masters")
        hands.row("Base")
        hands.press("Text", QAbstractButton)
        hands.fingers.drag(hands.on_page(60, 18), hands.on_page(300, 34))
        hands.rest()
        hands.menu("Text", "Insert marker", "Running head…")
        hands.choose("Style", "Heading 2")
        hands.press("Put in")
        hands.gone()
        hands.keys("Esc", "Esc")
        hands.press("Pages")

        hands.step("a contents list on a page of its own, with long titles")
        hands.ask(lambda: hands.session.show_page(all_pages(hands.session.publication)[-1].id))
        hands.menu("Pages", "Add a page")
        hands.menu("Text", "Contents list…")
        hands.fill("Title", "Contents")
        hands.press("Keep")
        hands.gone()
        data = exported(hands, pdf)
        check_contents(data, hands.publication)
        check_heads(data, hands.publication)

        hands.step("a settled file")
        kept = saved(hands, book)
        assert settled(kept) is kept and kept == hands.publication

        hands.step("out to its author, and in again")
        out = tmp_path / "back.docx"
        hands.menu("Text", "Story", "Export the story…")
        hands.file(out)
        hands.until(out.exists, "the story is not written")
        back = read(out).with_live_notes()
        assert words_of(list(back.paragraphs)) == [
            w for p in story_of(hands).text for c in p.content
            for w in getattr(c, "text", "").split()
        ]  # fmt: skip
        assert any(LONG in p.text for p in back.paragraphs)

    hands = day(journey)
    assert not [waited for waited, _ in hands.slow if waited > 10]
