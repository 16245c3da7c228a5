"""Takes the pictures in docs/screenshots/ from the demo publication.

.venv/bin/python scripts/make_screenshots.py
"""

from __future__ import annotations

import io
import os
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
os.environ["XDG_STATE_HOME"] = os.environ["XDG_DATA_HOME"] = tempfile.mkdtemp()

from PIL import Image
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPixmap
from PySide6.QtWidgets import QApplication, QScrollArea, QWidget

from hidden_frame.compose.composer import Composer
from hidden_frame.demo.almanac import almanac
from hidden_frame.demo.driven import driven_book
from hidden_frame.desktop.dialogs.rules import RulesDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.desktop.dialogs.versions import VersionsDialog
from hidden_frame.desktop.find.finder import Finder
from hidden_frame.desktop.find.places import Fields
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.start.window import StartWindow
from hidden_frame.desktop.shell.window import Window
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.pages.order import delete_pages
from hidden_frame.edit.size.resize import resize
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.png import page_images
from hidden_frame.resources import GUIDE
from hidden_frame.settle.settling import settled

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


# Which of the pictures the guide shows too, smaller and under its own name.
GUIDE_PICTURES = {
    "start": "begin", "folios": "numbers", "text": "heads", "board": "masters",
    "override": "departs", "move-foretold": "order", "checks": "print", "stories": "book",
    "lines": "lines", "driven": "driven",
}  # fmt: skip


def keep(picture: QPixmap, name: str) -> None:
    """Saves a picture, and a smaller one for the guide if that shows it."""
    picture.save(str(FOLDER / f"{name}.png"))
    if name in GUIDE_PICTURES:
        small = picture.scaledToWidth(640, Qt.TransformationMode.SmoothTransformation)
        small.save(str(GUIDE / f"{GUIDE_PICTURES[name]}.png"))
    print(f"took {name}.png")


def lay_over(whole: QPixmap, form: QWidget) -> None:
    """A dialog over the right part of a window's picture, framed."""
    left, top = whole.width() - form.width() - 14, 56
    painter = QPainter(whole)
    painter.drawPixmap(left, top, form.grab())
    painter.setPen(QColor(128, 128, 128))
    painter.drawRect(left - 1, top - 1, form.width() + 1, form.height() + 1)
    painter.end()


class Photographer:
    def __init__(self, app: QApplication) -> None:
        self.app = app
        settings().change(hints=False)
        self.window = Window(Session(*almanac()))
        self.session = self.window.session
        self.window.show()
        self.pages = [p.id for p in all_pages(self.session.publication)]

    def settle(self) -> None:
        for _ in range(4):
            self.app.processEvents()
        self.window.properties.refresh()
        self.window.run.refresh()
        self.window.run.finish()
        self.window.checks.findings_now(float("inf"))
        self.app.processEvents()

    def take(self, name: str, widget: QWidget | None = None) -> None:
        self.settle()
        keep((widget or self.window).grab(), name)

    def master(self, name: str) -> str:
        return next(m.id for m in self.session.publication.masters if m.name == name)

    def item(self, master: str, name: str) -> str:
        held = find_master(self.session.publication, self.master(master))
        return next(i.id for i in held.items if i.name == name)

    def local(self, position: int, name: str) -> str:
        page = find_page(self.session.publication, self.pages[position - 1])
        return next(i.id for i in page.items if i.name == name)

    def select(self, face: int, *items: str) -> None:
        self.session.select_items(self.session.faces()[face], items)

    def send(self, kind: QEvent.Type, face: int, x: float, y: float) -> None:
        desk, left = self.window.desk, Qt.MouseButton.LeftButton
        there = QPointF(*desk.camera.view.to_widget(x + self.session.faces()[face].x, y))
        button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else left
        held = Qt.KeyboardModifier.NoModifier
        event = QMouseEvent(kind, there, desk.mapToGlobal(there), button, left, held)
        self.app.sendEvent(desk, event)

    def all(self) -> None:
        session, pages, window = self.session, self.pages, self.window
        session.show_page(pages[8])
        self.take("pages")
        session.show_page(pages[6])
        self.select(len(session.faces()) - 1, self.item("Season opener", "Panel"))
        self.take("override")
        session.show_master(self.master("Almanac base"))
        self.select(1, self.item("Almanac base", "Foot title"))
        self.take("master")
        session.show_board()
        self.take("board")
        self.flatplan()
        session.show_page(pages[8])
        self.writing()
        self.versions()
        self.checks()
        session.show_page(pages[8])
        self.select(1, *(self.local(9, f"Moon {n}") for n in (2, 3, 4)))
        window.show_shelf("Items")
        usual = window.size()
        window.resize(1024, 768)
        self.take("items")
        window.resize(usual)
        window.show_shelf("Colours")
        dialog = window.colours.open_change()
        dialog.resize(430, 560)
        self.take("colours", dialog)
        dialog.reject()
        window.show_shelf("Masters")
        self.folios()
        self.dialogs()
        self.book()
        self.sizes()
        self.dark()

    def flatplan(self) -> None:
        """Far and near, and three pages dragged into the front matter; the checks below."""
        session, plan = self.session, self.window.flatplan.view
        session.show_flatplan()
        plan.zoom_to(64)
        self.settle()
        plan.live.finish()
        plan._judge()
        self.window.flatplan.show_legend()
        legend = self.window.flatplan.legend
        assert legend is not None
        self.settle()
        whole = self.window.grab()
        painter = QPainter(whole)
        painter.drawPixmap(self.window.mapFromGlobal(legend.pos()), legend.grab())
        painter.end()
        legend.close()
        keep(whole, "flatplan")
        plan.zoom_to(110)
        self.settle()
        session.select_pages(tuple(self.pages[n] for n in (8, 10, 13)))
        plan.verticalScrollBar().setValue(190)
        self.window.toggle_checks()
        self.settle()
        to = plan.rect_of(self.pages[4])
        start, end = plan.rect_of(self.pages[8]).center(), QPointF(to.left() + 2, to.center().y())
        self.point(plan.viewport(), QEvent.Type.MouseButtonPress, start)
        for n in range(1, 6):
            self.point(plan.viewport(), QEvent.Type.MouseMove, start + (end - start) * n / 5)
        plan.live.finish()
        self.take("move-foretold")
        plan.hand.cancel()
        self.window.toggle_checks()
        session.select_pages(())

    def point(self, widget: QWidget, kind: QEvent.Type, at: QPointF) -> None:
        left = Qt.MouseButton.LeftButton
        button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else left
        held = Qt.KeyboardModifier.NoModifier
        self.app.sendEvent(
            widget, QMouseEvent(kind, at, widget.mapToGlobal(at), button, left, held)
        )

    def writing(self) -> None:
        foot = self.item("Almanac base", "Foot title")
        self.window.desk.text.begin(Editing(self.master("Almanac base"), foot, "recto"))
        self.settle()
        desk = self.window.desk
        placed, face = desk.selected.placed(foot) or (None, None)
        assert placed is not None and face is not None
        x, y = desk.camera.view.to_widget(placed.matrix.e + face.x + 40, placed.matrix.f)
        desk.camera.zoom_by(2.6, QPointF(x, y))
        desk.camera.look(desk.camera.view.moved(desk.width() * 0.4 - x, desk.height() * 0.6 - y))
        self.take("text")
        desk.camera.fit_to("spread")
        self.session.edit_text(None)

    def versions(self) -> None:
        """What an earlier save held that is not there any more."""
        session, window = self.session, self.window
        path = Path(tempfile.mkdtemp()) / "Almanac" / "night-sky.hframe"
        path.parent.mkdir()
        before = session.history
        for number in (21, 12):
            window.files._save(path)
            gone = self.pages[number]
            session.edit("delete a page", lambda p, gone=gone: delete_pages(p, [gone]))
        window.files._save(path)
        window.keeper.wait()
        dialog = VersionsDialog(session, path, lambda *_: None, window)
        dialog.list.setCurrentItem(dialog.list.topLevelItem(2))
        dialog.show()
        self.settle()
        self.take("versions", dialog)
        dialog.reject()
        session.jump(len(before.past) - len(session.history.past))
        session.path = None

    def checks(self) -> None:
        """A page with a few faults, the list that tells them; then the styles."""
        session, window = self.session, self.window
        page = self.pages[22]
        style = session.publication.paragraph_styles[0].id
        note = (Paragraph(style, (Run("Bring a red lamp, a chair and a thermos ☕ \ue000"),)),)
        caption = TextFrame(id="", name="Caption", x=60, y=560, width=150, height=26, text=note)
        bar = Shape(id="", name="Edge bar", x=455, y=80, width=26.9, height=130,
                    fill=Fill("autumn"))  # fmt: skip
        for item in (caption, bar):
            session.edit("draw", lambda p, item=item: add_item(p, page, item)[0])
        session.show_page(page)
        window.toggle_checks()
        window.checks.findings_now(float("inf"))
        window.checks._go(window.checks.list.topLevelItem(0))
        self.take("checks")
        window.toggle_checks()
        session.undo()
        session.undo()
        dialog = StyleDialog(session, "contents-month", window)
        dialog.show()
        self.take("styles", dialog)
        dialog.close()

    def folios(self) -> None:
        """The dialog over the window, whose desk shows what would come of it."""
        self.session.show_page(self.pages[8])
        dialog = self.window.dialogs.folios()
        dialog.form_field.setCurrentIndex(2)
        dialog.form_field.take(2)
        dialog.adjustSize()
        self.settle()
        whole = self.window.grab()
        painter = QPainter(whole)
        at = self.window.width() - dialog.width() - 8
        painter.fillRect(at - 1, 71, dialog.width() + 2, dialog.height() + 2, Qt.GlobalColor.gray)
        painter.drawPixmap(at, 72, dialog.grab())
        painter.end()
        keep(whole, "folios")
        dialog.reject()

    def dialogs(self) -> None:
        fields = Fields(self.session, self.window.commands, self.window.properties)
        finder = Finder(self.session, self.window.commands, fields, self.window)
        finder.word.setText("line spaceing")
        finder.show()
        self.take("finder", finder)
        finder.close()
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "Publications").mkdir()
            self.window.files._save(Path(folder) / "Publications" / "Night Sky Almanac.hframe")
            start = StartWindow(lambda *_: None)
            start.show()
            self.take("start", start)
            start.close()

    def book(self) -> None:
        """The long book: a story on the desk, its path, and the galley beside it."""
        publication = settled(driven_book())
        window = Window(Session(publication, {}))
        window.show()
        before, self.window, self.session = (self.window, self.session), window, window.session
        window.show_shelf("Stories")
        window.session.show_paths(True)
        window.toggle_galley()
        window.desk.text.write_at(publication.stories[0].id, (38, 120))
        self.take("stories")
        window.session.edit_text(None)
        window.toggle_galley()
        window.session.show_paths(False)
        self.lines(window)
        window.hide()
        self.window, self.session = before

    def lines(self, window: Window) -> None:
        """A chapter's first page, its lines tinted, beside the form of a style."""
        session = window.session
        session.show_page(all_pages(session.publication)[4].id)
        session.tint_lines(True)
        window.desk.camera.fit_to("page")
        form = StyleDialog(session, "opening", window)
        form.show()
        form.move(window.mapToGlobal(QPoint(window.width() - form.width() - 8, 60)))
        self.settle()
        area = form.findChild(QScrollArea)
        area.verticalScrollBar().setValue(area.verticalScrollBar().maximum() * 6 // 10)
        self.settle()
        whole = window.grab()
        lay_over(whole, form)
        form.close()
        session.tint_lines(False)
        keep(whole, "lines")
        self.driven(window)

    def driven(self, window: Window) -> None:
        """A chapter's first spread, which follows its master by rule, beside the list of rules."""
        session = window.session
        session.show_page(all_pages(session.publication)[18].id)
        window.desk.camera.fit_to("spread")
        form = RulesDialog(session, window)
        form.show()
        self.settle()
        whole = window.grab()
        lay_over(whole, form)
        form.reject()
        keep(whole, "driven")

    def sizes(self) -> None:
        """The same spread in the almanac's size and, by one call, in A5; for the guide alone."""
        publication, blobs = almanac()
        small = resize(publication, TRIMS["A5"], items="scale", type_too=True)
        spreads = []
        for each in (publication, small):
            pages = [page.id for page in all_pages(each)[7:9]]
            made = page_images(Composer().compose(each), blobs, pages, 60)
            spreads += [Image.open(io.BytesIO(data)) for data in made]
        gap, tall = 26, max(image.height for image in spreads)
        wide = sum(image.width for image in spreads) + 3 * gap
        whole = Image.new("RGB", (wide, tall + 2 * gap), (216, 211, 201))
        left = gap
        for n, image in enumerate(spreads):
            whole.paste(image, (left, gap + (tall - image.height)))
            left += image.width + (gap if n == 1 else 0)
        high = round(whole.height * 640 / whole.width)
        whole.resize((640, high), Image.Resampling.LANCZOS).save(GUIDE / "sizes.png")
        print("took sizes.png for the guide")

    def dark(self) -> None:
        settings().change(theme="dark", hints=True)
        theme.apply(self.app)
        window = Window(Session(*almanac()))
        window.show()
        self.window, self.session = window, window.session
        self.session.show_page(self.pages[12])
        self.take("dark")


if __name__ == "__main__":
    app = QApplication([])
    settings().change(theme="light")
    theme.load_fonts()
    theme.apply(app)
    FOLDER.mkdir(parents=True, exist_ok=True)
    Photographer(app).all()
