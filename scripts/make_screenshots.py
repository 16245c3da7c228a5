"""Takes the pictures in docs/screenshots/ from the demo publication.

.venv/bin/python scripts/make_screenshots.py
"""

from __future__ import annotations

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QApplication, QWidget

from hidden_frame.demo.almanac import almanac
from hidden_frame.desktop import theme
from hidden_frame.desktop.dialogs.new import NewDialog
from hidden_frame.desktop.dialogs.pages import ApplyDialog
from hidden_frame.desktop.dialogs.styles import StyleDialog
from hidden_frame.desktop.session import Editing, Session
from hidden_frame.desktop.window import Window
from hidden_frame.model.lookup import all_pages, find_master

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


class Photographer:
    def __init__(self, app: QApplication) -> None:
        self.app = app
        self.window = Window(Session(*almanac()))
        self.session = self.window.session
        self.window.show()
        self.pages = [p.id for p in all_pages(self.session.publication)]

    def settle(self) -> None:
        for _ in range(4):
            self.app.processEvents()
        self.window.run._refresh()
        self.window.run.viewport().repaint()
        self.window.thumbnails.finish()
        self.app.processEvents()

    def take(self, name: str, widget: QWidget | None = None) -> None:
        self.settle()
        (widget or self.window).grab().save(str(FOLDER / f"{name}.png"))
        print(f"took {name}.png")

    def master(self, name: str) -> str:
        return next(m.id for m in self.session.publication.masters if m.name == name)

    def item(self, master: str, name: str) -> str:
        held = find_master(self.session.publication, self.master(master))
        return next(i.id for i in held.items if i.name == name)

    def select(self, face: int, item: str) -> None:
        self.session.select_items(self.session.faces()[face], (item,))

    def all(self) -> None:
        session, pages = self.session, self.pages
        session.show_page(pages[8])
        self.take("pages")
        session.show_page(pages[6])
        self.select(len(session.faces()) - 1, self.item("Season opener", "Panel"))
        self.take("override")
        session.show_master(self.master("Almanac base"))
        self.select(1, self.item("Almanac base", "Foot title"))
        self.take("master")
        foot = self.item("Almanac base", "Foot title")
        self.window.desk.text.begin(Editing(self.master("Almanac base"), foot, "recto"))
        self.settle()
        desk = self.window.desk
        placed, face = desk.placed(foot) or (None, None)
        assert placed is not None and face is not None
        x, y = desk.view.to_widget(placed.matrix.e + face.x + 40, placed.matrix.f)
        desk.zoom_by(2.6, QPointF(x, y))
        desk._look(desk.view.moved(desk.width() * 0.4 - x, desk.height() * 0.6 - y))
        self.take("text")
        self.window.desk.fit_to("spread")
        session.edit_text(None)
        session.show_page(pages[26])
        session.set_proof(True)
        self.take("proof")
        session.set_proof(False)
        self.dialogs()
        self.app.setProperty("hf_theme", "dark")
        theme.apply(self.app)
        session.show_page(pages[12])
        dark = Window(Session(*almanac()))
        dark.show()
        self.window = dark
        dark.session.show_page(pages[12])
        self.session = dark.session
        self.take("dark")

    def dialogs(self) -> None:
        new = NewDialog()
        new.resize(760, 560)
        new.show()
        self.take("new-publication", new)
        new.close()
        styles = StyleDialog(self.session, "body")
        styles.resize(460, 620)
        styles.show()
        self.take("styles", styles)
        styles.close()
        self.session.select_pages((self.pages[8],))
        apply = ApplyDialog(self.session)
        apply.range.setText("3, 7-9, odd")
        apply.resize(460, 330)
        apply.show()
        self.take("apply-masters", apply)
        apply.close()


if __name__ == "__main__":
    app = QApplication([])
    app.setProperty("hf_theme", "light")
    theme.load_fonts()
    theme.apply(app)
    FOLDER.mkdir(parents=True, exist_ok=True)
    Photographer(app).all()
