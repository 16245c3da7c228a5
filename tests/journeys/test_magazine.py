"""A magazine: pictures over the spine, layers, colours, and the order of pages beneath them."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pikepdf
import pypdfium2 as pdfium
from PIL import Image, ImageDraw
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QAbstractButton, QPushButton
from tests.journeys.hands import Hands

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.interact.hands.halves import reaching
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.storage.format import load


def ramp(path: Path) -> Path:
    """A picture whose every column has a colour of its own."""
    image = Image.new("RGB", (1800, 700))
    draw = ImageDraw.Draw(image)
    for x in range(1800):
        draw.line([(x, 0), (x, 700)], fill=(30 + x // 9, 90, 230 - x // 9))
    image.save(path, quality=95)
    return path


def ids(hands: Hands) -> list[str]:
    return [p.id for p in all_pages(hands.publication)]


def show(hands: Hands, position: int) -> None:
    hands.ask(
        lambda: hands.session.show_page(all_pages(hands.session.publication)[position - 1].id)
    )
    hands.rest()


def on_spread(hands: Hands, x: float, y: float) -> tuple[float, float]:
    """A place on the spread on the desk (points from the trim of its left page), on the screen."""

    def where() -> tuple[float, float]:
        desk = hands.window.desk
        across, down = desk.camera.view.to_widget(x, y)
        point = desk.mapToGlobal(QPoint(round(across), round(down)))
        return point.x(), point.y()

    return hands.ask(where)


def spread(publication, blobs, path: Path, left: str) -> np.ndarray:
    """Two pages that face each other as they are exported, side by side, without their bleed."""
    from hidden_frame.output.pdf import pdf_bytes

    order = [p.id for p in all_pages(publication)]
    at, b = order.index(left), round(publication.setup.bleed)
    path.write_bytes(pdf_bytes(Composer().compose(publication), blobs, order[at : at + 2]))
    pages = [np.asarray(p.render(scale=1).to_pil().convert("RGB")).astype(int)
             for p in pdfium.PdfDocument(path)]  # fmt: skip
    return np.concatenate([p[b:-b, b:-b] for p in pages], axis=1)


def homes(hands: Hands, page: str) -> list:
    """Where what is seen on a page stands, from the lowest up; None for what stands there."""
    return [p.home for p in Composer().compose(hands.publication).scene(page).painted]


def plain_pdf(path: Path) -> bytes:
    """A PDF with its objects as text."""
    with pikepdf.Pdf.open(path) as pdf:
        return b"\n".join(o.unparse(resolved=True) for o in pdf.objects
                          if not isinstance(o, pikepdf.Stream))  # fmt: skip


def smooth(row: np.ndarray, first: int, last: int) -> bool:
    """Whether the red of a row rises from column to column, over the spine too."""
    red = row[first:last, 0]
    return bool(np.all(np.abs(np.diff(red)) < 6)) and red[-1] - red[0] > 60


def test_a_day_with_a_magazine(day, tmp_path):
    picture, file = ramp(tmp_path / "ramp.jpg"), tmp_path / "quarterly.hframe"

    def journey(hands: Hands) -> None:
        hands.step("a magazine from the start window")
        hands.press("Magazine")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.rest()
        show(hands, 2)
        width = hands.publication.setup.trim.width

        hands.step("a frame is drawn over the spine, and goes to the page its middle lies on")
        hands.press("Picture", QAbstractButton)
        hands.fingers.drag(on_spread(hands, 300, 100), on_spread(hands, width + 400, 380))
        hands.rest()
        verso, recto = ids(hands)[1:3]
        assert not find_page(hands.publication, verso).items
        (drawn,) = find_page(hands.publication, recto).items
        assert isinstance(drawn, PictureFrame) and drawn.x < -250 and drawn.width > 600
        hands.keys("Ctrl+z")
        assert not find_page(hands.publication, recto).items

        hands.step("drawn from the outer edge, it stays on the verso and reaches over")
        hands.press("Picture", QAbstractButton)
        hands.fingers.drag(on_spread(hands, 30, 100), on_spread(hands, width + 250, 380))
        hands.rest()
        (drawn,) = find_page(hands.publication, verso).items
        assert [a.page for a in reaching(hands.publication)] == [verso]

        hands.step("a picture is put into it")
        hands.menu("Draw", "Place pictures…")
        hands.file(picture)
        (placed,) = find_page(hands.publication, verso).items
        assert placed.picture
        hands.choose("Fit", "fills the frame")
        seen = spread(hands.publication, hands.session.blobs, tmp_path / "s.pdf", verso)
        assert smooth(seen[240], 40, round(width) + 240)

        hands.step("the desk shows it whole: the colours go on over the spine")
        shot = tmp_path / "desk.png"
        hands.keys("Esc")
        hands.fingers.move(*on_spread(hands, 300, 600))
        hands.rest()
        hands.fingers.picture(shot)
        colours = np.asarray(Image.open(shot).convert("RGB")).astype(int)
        left, y = on_spread(hands, width - 40, 240)
        right, _ = on_spread(hands, width + 40, 240)
        row = colours[round(y), round(left) : round(right), 0]
        assert np.sum(np.abs(np.diff(row)) > 12) <= 2 and row[-1] > row[0]  # the trim's edge

        hands.step("pressed on the other page, it is the one that is selected")
        hands.fingers.click(*on_spread(hands, width + 200, 320))
        hands.rest()
        assert hands.ask(lambda: (hands.session.holder_id, hands.session.items)) == (
            verso, (drawn.id,)
        )  # fmt: skip

        hands.step("it is dragged by its other half, and undone")
        hands.fingers.drag(on_spread(hands, width + 120, 240), on_spread(hands, width + 60, 300))
        hands.rest()
        (moved,) = find_page(hands.publication, verso).items
        assert moved.x < drawn.x - 20 and moved.y > drawn.y + 20
        hands.keys("Ctrl+z")

        hands.step("text on the facing page lies above it")
        hands.press("Text", QAbstractButton)
        hands.fingers.drag(on_spread(hands, width + 60, 150), on_spread(hands, width + 220, 260))
        hands.rest()
        hands.type("The long night over the harbour")
        hands.keys("Esc")
        assert len(find_page(hands.publication, recto).items) == 1
        assert homes(hands, recto) == [(verso, "verso"), None]

        hands.step("on a layer above it lies over that text, on its own page and on the other")
        hands.fingers.click(*on_spread(hands, width + 30, 350))
        hands.rest()
        hands.choose("Layer", "Above")
        assert homes(hands, recto) == [None, (verso, "verso")]
        hands.choose("Layer", "Ground")
        assert homes(hands, recto) == [(verso, "verso"), None]

        hands.step("half seen through, it is so on both pages")
        hands.fill("Opacity", "50")
        hands.keys("Enter")
        faint = spread(hands.publication, hands.session.blobs, tmp_path / "f.pdf", verso)
        full = seen[350, 60 : round(width) + 240]
        half = faint[350, 60 : round(width) + 240]
        assert np.abs(half - (full + 255) / 2).max() <= 3

        hands.step("saved, and as it was")
        hands.keys("Ctrl+Shift+s")
        hands.file(file)
        hands.until(lambda: file.exists() and not hands.session.modified, "it is not saved", 60)
        assert load(file).publication == hands.publication

        hands.step("an advertisement before it would part the pages: it is told")
        before = hands.publication
        show(hands, 1)
        hands.menu("Pages", "Add a page")
        hands.pick("Leave it")
        assert hands.publication == before
        hands.menu("Pages", "Add a page")
        hands.pick("Go on, and put the other half on the page it leaves")
        now = hands.publication
        assert len(all_pages(now)) == len(all_pages(before)) + 1 and not reaching(now)
        assert len(find_page(now, recto).items) == 2
        assert not [f for f in content_findings(Composer().compose(now), hands.session.blobs)
                    if f.kind == "cut at the spine"]  # fmt: skip
        hands.keys("Ctrl+z")
        assert hands.publication == before

        hands.step("two pages before it leave it whole")
        hands.menu("Pages", "Add pages…")
        hands.fill("Number of pages", "2")
        hands.press("Add")
        hands.gone()
        assert [a.page for a in reaching(hands.publication)] == [verso]
        seen = spread(hands.publication, hands.session.blobs, tmp_path / "t.pdf", verso)
        assert smooth(seen[120], 40, round(width) + 50)

        hands.step("a band over another spine in an ink of its own, which is changed once")
        show(hands, 6)
        left = ids(hands)[5]
        hands.press("Colours")
        hands.press("New…")
        hands.fill("Name", "Signal")
        hands.choose("Kind", "Spot")
        hands.press("Make")
        hands.gone()
        hands.keys("4")  # a rectangle
        hands.fingers.drag(on_spread(hands, 60, 400), on_spread(hands, width + 200, 460))
        hands.rest()
        hands.row("Signal")
        hands.press("Fill", QPushButton)
        (band,) = find_page(hands.publication, left).items
        ink = next(c for c in hands.publication.colours if c.name == "Signal")
        assert band.fill.colour == ink.id and ink.space == "spot"
        first = spread(hands.publication, hands.session.blobs, tmp_path / "u.pdf", left)
        assert b"/Separation" in plain_pdf(tmp_path / "u.pdf")
        hands.press("Change…")
        hands.fill("Yellow share", "90")
        hands.press("Change everywhere")
        hands.gone()
        then = spread(hands.publication, hands.session.blobs, tmp_path / "v.pdf", left)
        for seen in (first, then):  # one colour on both pages
            row = seen[430, 70 : round(width) + 190]
            assert np.abs(row - row[0]).max() <= 1 and tuple(row[0]) != (255, 255, 255)
        assert tuple(first[430, 100]) != tuple(then[430, 100])

        hands.step("all of it is undone, and done again")
        now = hands.publication
        count = hands.ask(lambda: len(hands.session.history.past))
        for _ in range(count + 2):
            hands.fingers.keys("Ctrl+z")
        hands.rest()
        assert not reaching(hands.publication)
        for _ in range(count + 2):
            hands.fingers.keys("Ctrl+Shift+z")
        hands.rest()
        assert hands.publication == now

    day(journey)
