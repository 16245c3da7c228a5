"""The masters of a yearbook: a family built, put on pages, departed from, changed, found again."""

from __future__ import annotations

import time

from PIL import Image
from PySide6.QtWidgets import QAbstractButton, QApplication
from tests.journeys.hands import Hands

from hidden_frame.edit.text.write import plain
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import all_pages, find_page, stack_of
from hidden_frame.model.units import mm
from hidden_frame.storage.format import load


def master(publication, name: str):
    return next(m for m in publication.masters if m.name == name)


def of_pages(publication, name: str) -> list[int]:
    """Positions of the pages whose stack has this master."""
    wanted = master(publication, name).id
    return [
        n for n, p in enumerate(all_pages(publication), 1) if wanted in stack_of(publication, p)
    ]


def test_a_family_of_masters(day, tmp_path):
    book, next_year, logo = (tmp_path / n for n in ("year.hframe", "next.hframe", "logo.png"))
    light = tmp_path / "light.png"
    Image.new("RGB", (60, 60), "#17324d").save(logo)
    Image.new("RGB", (60, 60), "#f8f6f0").save(light)

    def on_shelf(hands: Hands, master_id: str) -> tuple[float, float]:
        def where() -> tuple[float, float]:
            shelf = hands.windows.open_ones[0].shelf
            rect = shelf.masters.visualItemRect(shelf.row_of(master_id))
            point = shelf.masters.viewport().mapToGlobal(rect.center())
            return point.x(), point.y()

        return hands.ask(where)

    def logo_of(hands: Hands):
        return next(i for m in hands.publication.masters for i in m.items
                    if isinstance(i, PictureFrame))  # fmt: skip

    def journey(hands: Hands) -> None:
        hands.step("a yearbook of sixteen pages; its master is called Base")
        hands.press("Yearbook")
        hands.fill("Number of pages", "none")
        hands.seen("not a number of pages")
        hands.fill("Number of pages", "16")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.press("Masters", QAbstractButton)
        hands.menu("Masters", "Rename this master…")
        hands.fill("Name", "Base")
        hands.press("Rename")
        hands.gone()
        master(hands.publication, "Base")

        hands.step("a logo on it, chosen where it is seen, and a light one for dark ground")
        hands.menu("Draw", "Place pictures…")
        hands.file(logo)
        hands.until(lambda: hands.session.items, "no picture is placed")
        assert logo_of(hands).picture
        hands.fill("X", "20mm")
        hands.fill("Y", "12mm")
        hands.fill("Width", "10mm")
        hands.fill("Height", "10mm")
        hands.press("Picture on dark ground", QAbstractButton)
        hands.file(light)
        assert logo_of(hands).picture_on_dark and abs(logo_of(hands).width - mm(10)) < 0.01
        hands.keys("Esc")

        hands.step("an article and a plate on it; one more, renamed, on another base; all seen")
        for name in ("Article", "Plate"):
            hands.menu("Masters", "New master…")
            hands.fill("Name", name)
            hands.choose("Starts as", "based on another master")
            hands.choose("Which master", "Base")
            hands.press("Make it")
            hands.gone()
        hands.menu("Masters", "Duplicate this master")
        hands.menu("Masters", "Rename this master…")
        hands.fill("Name", "Interview")
        hands.press("Rename")
        hands.gone()
        hands.choose("Builds on", "Article")
        now = hands.publication
        assert master(now, "Interview").base == master(now, "Article").id

        hands.step("to a typed range, to odd pages on top, and by a drag onto the Run")
        hands.press("Pages", QAbstractButton)
        hands.keys("Ctrl+m")
        hands.choose("Master", "Article")
        hands.fill("Pages", "#3-#8")
        hands.press("Apply")
        hands.gone()
        assert of_pages(hands.publication, "Article") == [3, 4, 5, 6, 7, 8]
        hands.keys("Ctrl+m")
        hands.choose("Master", "Plate")
        hands.fill("Pages", "#99")
        hands.seen("“#99” names no page")
        hands.fill("Pages", "#10, #12")
        hands.press("Apply")
        hands.gone()
        assert of_pages(hands.publication, "Plate") == [10, 12]
        interview = master(hands.publication, "Interview").id
        five = all_pages(hands.publication)[4].id

        def to_run() -> tuple[float, float]:
            run = hands.windows.open_ones[0].run
            seen = run._shown()
            cell = next(c for c in seen.layout.cells if c.facts.page_id == five)
            point = run.viewport().mapToGlobal(seen.rect_of(cell).center().toPoint())
            return point.x(), point.y()

        hands.menu("Masters", "Masters on the Shelf")  # the Shelf shows what it showed last
        hands.ask(lambda: hands.session.show_page(five))
        hands.rest()
        stood = hands.ask(to_run)
        for _ in range(20):  # until the Run has come to rest at the page
            time.sleep(0.5)
            if stood == (stood := hands.ask(to_run)):
                break
        hands.fingers.drag(on_shelf(hands, interview), stood)
        hands.rest()
        assert of_pages(hands.publication, "Interview") == [5]

        hands.step("the logo departs on page 5: its place; the master changes; it follows again")
        now_there = logo_of(hands)
        hands.fingers.click(*hands.on_page(now_there.x + 12, now_there.y + 12))
        hands.rest()
        hands.press("Override here", QAbstractButton)
        hands.fill("Y", "30mm")
        (own,) = find_page(hands.publication, five).overrides
        assert abs(own.y - mm(30)) < 0.01
        hands.menu("Arrange", "Flip across: left for right")
        assert find_page(hands.publication, five).overrides[0].flip == "across"
        hands.press("Follow the master in everything", QAbstractButton)
        assert not find_page(hands.publication, five).overrides
        hands.press("Hide here", QAbstractButton)
        assert find_page(hands.publication, five).overrides[0].visible is False
        hands.keys("Ctrl+z")
        assert not find_page(hands.publication, five).overrides

        hands.step("a local item to the master: on all its pages at the same spot")
        hands.keys("Esc")
        hands.press("Text", QAbstractButton)
        hands.fingers.drag(hands.on_page(80, 200), hands.on_page(240, 240))
        hands.rest()
        hands.type("Harbour Museum")
        hands.keys("Esc")
        hands.menu("Masters", "Move to a master…")
        hands.press("Move")
        hands.gone()
        now = hands.publication
        holders = [m.name for m in now.masters for i in m.items
                   if isinstance(i, TextFrame) and plain(i.text) == "Harbour Museum"]  # fmt: skip
        assert len(holders) == 1 and not find_page(now, five).items

        hands.step("Find: a field by a designer's word, with a slip, open and with the keyboard")
        hands.keys("Esc", "F1")
        hands.find("Type what you look for")
        hands.settled()
        hands.type("line spaceing")
        hands.keys("Enter")
        hands.until(
            lambda: (
                QApplication.focusWidget() is not None
                and QApplication.focusWidget().accessibleName() == "Leading"
            ),
            "the keyboard is not in Leading",
        )
        hands.keys("Esc", "Esc")
        hands.gone()

        hands.step("the master in use is deleted: its pages take its base")
        hands.press("Masters", QAbstractButton)
        hands.fingers.click(*on_shelf(hands, master(hands.publication, "Article").id))
        hands.rest()
        hands.menu("Masters", "Delete this master…")
        hands.press("Delete")
        hands.gone()
        now = hands.publication
        assert "Article" not in {m.name for m in now.masters}
        base = master(now, "Base").id
        assert master(now, "Interview").base == base
        for page_now in all_pages(now)[2:8]:
            assert base in stack_of(now, page_now) or page_now.id == five

        hands.step("saved; next year's is saved from it under another name, and both open")
        hands.keys("Ctrl+Shift+s")
        hands.file(book)
        hands.until(lambda: book.exists() and not hands.session.modified, "it is not saved", 60)
        hands.press("Pages", QAbstractButton)
        hands.press("Publication", QAbstractButton)
        hands.fill("Title", "Harbour Yearbook, next")
        hands.keys("Ctrl+Shift+s")
        hands.file(next_year)
        hands.until(lambda: next_year.exists() and not hands.session.modified, "not saved", 60)
        assert load(book).publication == now
        assert load(next_year).publication.title == "Harbour Yearbook, next"
        assert load(next_year).publication.masters == now.masters

    day(journey)
