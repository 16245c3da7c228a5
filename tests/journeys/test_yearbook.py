"""A yearbook from an empty window: masters, folios for all, a dark page, and then another size."""

from __future__ import annotations

import pdfplumber
import pikepdf
from msgspec import UNSET
from PySide6.QtWidgets import QAbstractButton
from tests.journeys.hands import Hands

from hidden_frame.edit.pages.folios import masters_with_folio, shows_folio
from hidden_frame.edit.text.write import plain
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.publication import Setup
from hidden_frame.model.units import mm
from hidden_frame.storage.format import load


def shown(hands: Hands, position: int) -> dict[str, set]:
    """The inks of each line on a page, by what it says."""

    def look() -> dict[str, set]:
        session = hands.session
        page = all_pages(session.publication)[position - 1].id
        found: dict[str, set] = {}
        for placed in session.composition.scene(page).painted:
            block = placed.drawing.text
            for line in block.text.lines if block is not None else ():
                found.setdefault(line.text, set()).update(run.span.ink for run in line.runs)
        return found

    return hands.ask(look)


def test_a_yearbook_that_changes_its_mind(day, tmp_path):
    book, pdf = tmp_path / "year.hframe", tmp_path / "year.pdf"
    made_setup: list[Setup] = []

    def journey(hands: Hands) -> None:
        hands.step("a yearbook from the start window, 170 × 240 mm, twelve pages")
        hands.press("Yearbook")
        hands.fill("Width", "170mm")
        hands.fill("Height", "240mm")
        hands.fill("Number of pages", "12")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        assert hands.publication.setup.trim.width == mm(170)

        hands.step("folios for all in one command, with a colour for dark ground")
        hands.keys("Ctrl+Shift+f")
        hands.choose("Form", "/ 12")
        hands.choose("On dark ground", "Paper")
        hands.press("Place", QAbstractButton)
        hands.gone()
        assert masters_with_folio(hands.publication)
        first = shown(hands, 3)
        assert "3 / 12" in first

        hands.step("a head with two ends on the master: inside and outside")
        hands.keys("F3")
        setup = hands.publication.setup
        hands.press("Text", QAbstractButton)
        inner, wide = setup.margins.inside, setup.trim.width - setup.margins.outside
        hands.fingers.drag(hands.on_page(inner, 24), hands.on_page(wide, 42))
        hands.rest()
        hands.type("Harbour")
        hands.keys("Ctrl+Shift+t")
        hands.type("Winter")
        hands.keys("Esc", "Esc")
        (head,) = [i for i in hands.publication.masters[0].items if not shows_folio(i)]
        assert plain(head.text) == "Harbour\tWinter"
        hands.keys("F3")

        hands.step("a dark ground over all of page 3, drawn by hand on the lowest layer")
        page = all_pages(hands.publication)[2].id
        hands.ask(lambda: hands.session.show_page(page))
        hands.rest()
        setup = hands.publication.setup
        hands.press("Shape", QAbstractButton)
        start = hands.on_page(-setup.bleed, -setup.bleed)
        end = hands.on_page(setup.trim.width + setup.bleed, setup.trim.height + setup.bleed)
        hands.fingers.drag(start, end)
        hands.rest()
        hands.until(lambda: hands.session.items, "nothing is drawn")
        hands.choose("Fill", "Ink")
        hands.choose("Layer", "Ground")
        hands.rest()
        paper = next(c.values for c in hands.publication.colours if c.name == "Paper")
        assert shown(hands, 3)["3 / 12"] == {paper}
        assert shown(hands, 4)["4 / 12"] == first["3 / 12"]

        hands.step("the form is changed later, and the dark page follows")
        hands.keys("Esc")
        hands.keys("Ctrl+Shift+f")
        hands.choose("Form", "Page 3 of 12")
        hands.press("Change", QAbstractButton)
        hands.gone()
        assert shown(hands, 3)["Page 3 of 12"] == {paper}
        assert "Page 4 of 12" in shown(hands, 4)

        hands.step("one page's folio departs in its size alone; all are put away, and come back")
        four = all_pages(hands.publication)[3].id
        hands.ask(lambda: hands.session.show_page(four))
        hands.rest()
        folio = next(i for i in hands.publication.masters[0].items if shows_folio(i))
        x, y = folio.x, folio.y  # as on a recto; page 4 is a verso
        at = hands.publication.setup.trim.width - x - folio.width
        hands.fingers.click(*hands.on_page(at + 20, y + folio.height / 2))
        hands.rest()
        hands.fill("Size of all words", "6")
        (own,) = find_page(hands.publication, four).overrides
        assert (own.text_size, own.text) == (6.0, UNSET)
        kept = hands.publication
        hands.keys("Esc")
        hands.keys("Ctrl+Shift+f")
        hands.press("Remove all folios")
        hands.gone()
        assert not masters_with_folio(hands.publication)
        hands.keys("Ctrl+Shift+f")
        hands.press("Place", QAbstractButton)
        hands.gone()
        assert hands.publication.masters == kept.masters
        assert hands.publication.sections == kept.sections

        hands.step("single pages, and facing again: nothing is lost")
        hands.keys("Esc")
        hands.press("Publication", QAbstractButton)
        hands.press("Facing pages")
        assert not hands.publication.setup.facing
        hands.press("Facing pages")
        assert hands.publication.sections == kept.sections

        hands.step("after all is done: another trim, looked at and left, then kept")
        before = hands.publication
        hands.menu("Publication", "Page size…")
        hands.fill("Width", "150mm")
        hands.seen("150 mm × 240 mm")
        hands.keys("Esc")
        hands.gone()
        assert hands.publication is before
        hands.menu("Publication", "Page size…")
        hands.fill("Width", "150 mm")
        hands.fill("Height", "20cm + 10mm")
        hands.choose("Items", "follow the edges")
        hands.seen("Everything is on its page, and fits.")
        hands.press("Keep")
        hands.gone()
        now = hands.publication
        assert abs(now.setup.trim.height - mm(210)) < 0.01
        (ground,) = find_page(now, page).items
        assert abs(ground.width - mm(150) - 2 * now.setup.bleed) < 0.5
        assert shown(hands, 3)["Page 3 of 12"] == {paper}

        made_setup.append(now.setup)

        hands.step("sixty steps back and on again, saved, closed, opened: the same")
        for _ in range(60):
            hands.fingers.keys("Ctrl+z")
        hands.rest()
        for _ in range(60):
            hands.fingers.keys("Ctrl+Shift+z")
        hands.rest()
        assert hands.publication == now
        hands.keys("Ctrl+Shift+s")
        hands.file(book)
        hands.until(lambda: book.exists() and not hands.session.modified, "it is not saved", 60)
        assert load(book).publication == now

        hands.step("and as a PDF in the new size")
        hands.keys("Ctrl+e")
        hands.press("Export…")
        hands.file(pdf)
        hands.until(lambda: pdf.exists() and pdf.stat().st_size > 1000, "no PDF is written", 60)
        hands.gone()

    day(journey)
    with pdfplumber.open(pdf) as opened:
        assert len(opened.pages) == 12
        words = [" ".join(w["text"] for w in p.extract_words()) for p in opened.pages]
        for n, said in ((3, words[2]), (12, words[11])):
            assert f"Page {n} of 12" in said and "Harbour" in said and "Winter" in said
        # The ends at the spine and away from it, on either side, in the new size.
        for page, (at_left, at_right) in ((opened.pages[2], ("Harbour", "Winter")),
                                          (opened.pages[3], ("Winter", "Harbour"))):  # fmt: skip
            places = {w["text"]: (w["x0"], w["x1"]) for w in page.extract_words()}
            assert places[at_left][1] < places[at_right][0]
            left, _, right, _ = (float(v) for v in page.bbox)
            inside = places["Harbour"]
            spine = inside[0] - left if page is opened.pages[2] else right - inside[1]
            assert abs(spine - made_setup[0].bleed - made_setup[0].margins.inside) < 1.0
        sizes = [round(max(c["size"] for c in p.chars if c["text"] in "0123456789"), 1)
                 for p in opened.pages[3:5]]  # fmt: skip
        assert sizes[0] == 6.0 and sizes[1] > 6.0
    with pikepdf.open(pdf) as made:
        x0, y0, x1, y1 = (float(v) for v in made.pages[2].trimbox)
        assert abs(x1 - x0 - mm(150)) < 0.01 and abs(y1 - y0 - mm(210)) < 0.01
