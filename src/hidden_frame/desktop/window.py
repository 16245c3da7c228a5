"""The one window: puts the parts together and says which command does what."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QCloseEvent, QCursor
from PySide6.QtWidgets import QMainWindow, QMenu, QSplitter, QVBoxLayout, QWidget

from hidden_frame.compose.shown import shown_item
from hidden_frame.desktop.bars import Banner, Notice, StatusLine, TextStrip, TopBar
from hidden_frame.desktop.commands import Command, Commands
from hidden_frame.desktop.desk.canvas import Desk
from hidden_frame.desktop.dialogs.pages import (
    AddDialog,
    ApplyDialog,
    DeleteMasterDialog,
    SectionDialog,
)
from hidden_frame.desktop.dialogs.styles import StyleDialog
from hidden_frame.desktop.files import Files
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.properties.item import go_to_item, hide_item, make_item_local
from hidden_frame.desktop.properties.panel import Properties
from hidden_frame.desktop.run.thumbnails import Thumbnails
from hidden_frame.desktop.run.view import Run
from hidden_frame.desktop.session import Session, Tool
from hidden_frame.desktop.shelf.shelf import Shelf
from hidden_frame.edit.items import duplicate_items, remove_items, reorder_items
from hidden_frame.edit.masters import delete_master
from hidden_frame.edit.pages import (
    add_pages_after,
    delete_pages,
    duplicate_pages,
    set_blind,
)
from hidden_frame.edit.sections import join_with_previous
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, positions, section_of
from hidden_frame.model.publication import Publication


class Window(QMainWindow):
    """A session shown: Shelf, desk, Properties, Run."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.pictures = PictureShelf(session.blobs)
        self.thumbnails = Thumbnails(self.pictures)
        self.files = Files(session, self.thumbnails, self)
        self.desk = Desk(session, self.pictures)
        self.run = Run(session, self.thumbnails)
        self.shelf = Shelf(session)
        self.properties = Properties(session)
        self.commands = Commands(self, self._commands())
        self.top = TopBar(session, self.commands)
        self.banner = Banner(session)
        self.strip = TextStrip(session, self.desk)
        self.status = StatusLine(session, self.desk)
        self._lay_out()
        self.notice = Notice(self.desk)
        session.noticed.connect(self.notice.say)
        session.changed.connect(self._refresh)
        session.looked.connect(self._refresh)
        self.properties.apply_wanted.connect(self.apply_masters)
        self.shelf.masters.pointed.connect(self.run.ring)
        self.shelf.master_menu.connect(self._master_menu)
        self.desk.master_item_pulled.connect(self.choices)
        self.desk.menu_wanted.connect(self._item_menu)
        self.run.menu_wanted.connect(self._page_menu)
        self.resize(1280, 800)
        self._refresh()

    def _lay_out(self) -> None:
        middle = QWidget()
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.banner, self.strip):
            column.addWidget(part)
        column.addWidget(self.desk, 1)
        self.across = QSplitter(Qt.Orientation.Horizontal)
        for panel in (self.shelf, middle, self.properties):
            self.across.addWidget(panel)
        self.across.setStretchFactor(1, 1)
        self.across.setSizes([216, 768, 296])
        self.down = QSplitter(Qt.Orientation.Vertical)
        self.down.addWidget(self.across)
        self.down.addWidget(self.run)
        self.down.setStretchFactor(0, 1)
        self.down.setSizes([560, 172])
        self.down.setChildrenCollapsible(False)
        whole = QWidget()
        rows = QVBoxLayout(whole)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.top)
        rows.addWidget(self.down, 1)
        rows.addWidget(self.status)
        self.setCentralWidget(whole)

    # -- commands ------------------------------------------------------------------

    def _commands(self) -> list[Command | None]:
        session, files, desk = self.session, self.files, self.desk

        def chosen() -> bool:
            return bool(session.items) and session.editing is None and self._items_are_own()

        def pages() -> bool:
            return session.mode == "pages" or bool(session.pages)

        def tool(name: Tool) -> object:
            return lambda: session.set_tool(name)

        return [
            Command("new", "Publication", "New…", "Ctrl+N", files.new),
            Command("open", "Publication", "Open…", "Ctrl+O", files.open),
            Command("demo", "Publication", "Open the demo almanac", "", files.demo),
            None,
            Command("save", "Publication", "Save", "Ctrl+S", files.save),
            Command("save as", "Publication", "Save as…", "Ctrl+Shift+S", files.save_as),
            Command("export", "Publication", "Export PDF…", "Ctrl+E", files.export),
            None,
            Command("close", "Publication", "Close", "Ctrl+W", self.close),
            Command("undo", "Edit", "Undo", "Ctrl+Z", session.undo,
                    lambda: bool(session.history.past)),
            Command("redo", "Edit", "Redo", "Ctrl+Shift+Z", session.redo,
                    lambda: bool(session.history.future)),
            None,
            Command("duplicate", "Edit", "Duplicate items", "Ctrl+D", self.duplicate_items, chosen),
            Command("delete", "Edit", "Delete", "Del", self.delete,
                    lambda: chosen() or (bool(session.pages) and session.editing is None)),
            Command("front", "Edit", "Bring to front", "Ctrl+Up", self._reorder("front"), chosen),
            Command("back", "Edit", "Send to back", "Ctrl+Down", self._reorder("back"), chosen),
            None,
            Command("styles", "Edit", "Paragraph styles…", "Ctrl+T", self.edit_styles),
            Command("add page", "Pages", "Add a page", "Ctrl+Return", self.add_page),
            Command("add pages", "Pages", "Add pages…", "", self.add_pages),
            Command("duplicate pages", "Pages", "Duplicate pages", "", self.duplicate_pages, pages),
            Command("delete pages", "Pages", "Delete pages", "", self.delete_pages, pages),
            None,
            Command("apply", "Pages", "Apply masters…", "Ctrl+M", self.apply_masters),
            Command("blind", "Pages", "Blind folio on or off", "", self.toggle_blind, pages),
            None,
            Command("start section", "Pages", "Start a section here…", "", self.start_section),
            Command("join section", "Pages", "Join with the section before", "",
                    self.join_section, lambda: self._section_index() > 0),
            Command("new master", "Masters", "New master", "", lambda: self.shelf.new_master(None)),
            Command("new on", "Masters", "New master based on this one", "",
                    lambda: self.shelf.new_master(session.master_id),
                    lambda: bool(session.master_id)),
            Command("delete master", "Masters", "Delete this master…", "",
                    lambda: self.delete_master(session.master_id),
                    lambda: session.mode == "masters"),
            *(Command(f"tool {name}", "Draw", title, key, tool(name))  # type: ignore[arg-type]
              for name, title, key in (
                  ("select", "Select", "1"), ("text", "Text frame", "2"),
                  ("picture", "Picture frame", "3"), ("rectangle", "Rectangle", "4"),
                  ("rounded", "Rounded rectangle", ""), ("ellipse", "Ellipse", ""),
                  ("line", "Line", "5"))),
            Command("mode", "View", "Change between pages and masters", "F3", self.change_mode),
            None,
            Command("fit page", "View", "Fit the page", "F6", lambda: desk.fit_to("page")),
            Command("fit spread", "View", "Fit the spread", "F7", lambda: desk.fit_to("spread")),
            Command("zoom in", "View", "Zoom in", "Ctrl++", lambda: desk.zoom_by(1.25)),
            Command("zoom out", "View", "Zoom out", "Ctrl+-", lambda: desk.zoom_by(1 / 1.25)),
            None,
            Command("proof", "View", "Proof view", "F8",
                    lambda: session.set_proof(not session.proof)),
            Command("next spread", "View", "Next spread", "PgDown", lambda: self.turn(1),
                    lambda: session.mode == "pages"),
            Command("previous spread", "View", "Previous spread", "PgUp", lambda: self.turn(-1),
                    lambda: session.mode == "pages"),
        ]  # fmt: skip

    def _refresh(self) -> None:
        session = self.session
        self.commands.refresh()
        past, future = session.history.past, session.history.future
        self.commands["undo"].setText(f"Undo {past[-1].name}" if past else "Undo")
        self.commands["redo"].setText(f"Redo {future[-1].name}" if future else "Redo")
        name = session.path.name if session.path else "not saved yet"
        mark = "[*]"
        self.setWindowTitle(f"{session.publication.title}{mark} — {name} — Hidden Frame")
        self.setWindowModified(session.modified)

    def _items_are_own(self) -> bool:
        session = self.session
        own = {i.id for i in self._holder_items(session.publication)}
        return all(i in own for i in session.items)

    def _holder_items(self, publication: Publication):  # type: ignore[no-untyped-def]
        session = self.session
        if session.mode == "masters":
            return next(m for m in publication.masters if m.id == session.holder_id).items
        return find_page(publication, session.holder_id).items

    def _section_index(self) -> int:
        publication = self.session.publication
        return publication.sections.index(section_of(publication, self.session.page_id))

    # -- items ---------------------------------------------------------------------

    def delete(self) -> None:
        """Deletes the selected items, or the selected pages if the Run is worked on.

        A page that was clicked only to lay it on the desk is not lost by a key there.
        """
        session = self.session
        if session.items:
            holder, items = session.holder_id, session.items
            count = "item" if len(items) == 1 else f"{len(items)} items"
            session.edit(f"delete {count}", lambda p: remove_items(p, holder, items))
        elif session.pages and self.run.hasFocus():
            self.delete_pages()

    def duplicate_items(self) -> None:
        session = self.session
        holder, items = session.holder_id, list(session.items)
        publication, made = duplicate_items(session.publication, holder, items)
        session.edit("duplicate", lambda _: publication)
        session.select_items(None, tuple(made))

    def edit_styles(self) -> None:
        """The paragraph style of the selected frame or edited paragraph, or the first one."""
        session = self.session
        style = self.desk.text.paragraph_style() if session.editing is not None else None
        if style is None and len(session.items) == 1:
            item = shown_item(
                session.publication, session.holder_id, session.items[0], session.side
            )
            style = item.text[0].style if isinstance(item, TextFrame) and item.text else None
        StyleDialog(session, style, self).exec()

    def _reorder(self, to: str):  # type: ignore[no-untyped-def]
        def run() -> None:
            holder, items = self.session.holder_id, list(self.session.items)
            self.session.edit(f"to {to}", lambda p: reorder_items(p, holder, items, to))

        return run

    def choices(self, point: QPoint) -> None:
        """The four choices for a master item that someone tried to change on a page."""
        self.choice_menu().popup(point)

    def choice_menu(self) -> QMenu:
        session = self.session
        item_id = session.items[0]
        holder = session.holder_id
        menu = QMenu(self)
        menu.setObjectName("Choices")
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.addAction("Override here", lambda: session.unlock(holder, item_id))
        menu.addAction("Hide here", lambda: hide_item(session, item_id))
        if session.mode == "pages":
            menu.addAction("Make local", lambda: make_item_local(session, item_id))
        menu.addAction("Go to master", lambda: go_to_item(session, item_id))
        return menu

    def _item_menu(self, point: QPoint) -> None:
        session = self.session
        if not session.items:
            return
        if not session.may_change(session.holder_id, session.items[0]):
            self.choices(point)
            return
        menu = QMenu(self)
        for name in ("duplicate", "delete", "front", "back"):
            menu.addAction(self.commands[name])
        menu.popup(point)

    # -- pages ---------------------------------------------------------------------

    def chosen_pages(self) -> tuple[str, ...]:
        """The selected pages, or else the one on the desk."""
        return self.session.pages or (self.session.page_id,)

    def add_page(self) -> None:
        session = self.session
        after = self.chosen_pages()[-1]
        publication, made = add_pages_after(session.publication, after)
        session.edit("add page", lambda _: publication)
        session.pages = tuple(made)
        session.show_page(made[0])

    def add_pages(self) -> None:
        AddDialog(self.session, self).exec()

    def duplicate_pages(self) -> None:
        session = self.session
        chosen = self.chosen_pages()
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, new = duplicate_pages(publication, chosen)
            made.extend(new)
            return publication

        if session.edit("duplicate pages", change):
            session.select_pages(tuple(made))

    def delete_pages(self) -> None:
        session = self.session
        chosen = self.chosen_pages()
        count = "page" if len(chosen) == 1 else f"{len(chosen)} pages"
        if session.edit(f"delete {count}", lambda p: delete_pages(p, chosen)):
            session.noticed.emit(f"Deleted {count}. Undo brings them back.")

    def toggle_blind(self) -> None:
        session = self.session
        chosen = self.chosen_pages()
        blind = not find_page(session.publication, chosen[0]).blind
        session.edit("blind folio", lambda p: set_blind(p, chosen, blind))

    def apply_masters(self) -> None:
        ApplyDialog(self.session, self).exec()

    def start_section(self) -> None:
        SectionDialog(self.session, self).exec()

    def join_section(self) -> None:
        section = section_of(self.session.publication, self.session.page_id).id
        self.session.edit("join sections", lambda p: join_with_previous(p, section))

    def turn(self, step: int) -> None:
        """The next or the previous spread on the desk."""
        session = self.session
        order = positions(session.publication)
        on_desk = [order[f.holder_id] for f in session.faces()]
        target = (max(on_desk) if step > 0 else min(on_desk)) + step
        pages = all_pages(session.publication)
        if 1 <= target <= len(pages):
            session.show_page(pages[target - 1].id)

    def _page_menu(self, point: QPoint) -> None:
        menu = QMenu(self)
        menu.setObjectName("PageMenu")
        for name in ("add page", "add pages", "duplicate pages", "delete pages", "", "apply",
                     "blind", "", "start section", "join section"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.popup(point)

    # -- masters -------------------------------------------------------------------

    def change_mode(self) -> None:
        session = self.session
        if session.mode == "pages":
            session.show_master(session.master_id)
        else:
            session.show_page(session.page_id)

    def delete_master(self, master_id: str) -> None:
        """Deletes a master; asks what its pages shall follow if it is in use (R14)."""
        session = self.session
        if session.composition.followers(master_id):
            DeleteMasterDialog(session, master_id, self).exec()
        else:
            session.edit("delete master", lambda p: delete_master(p, master_id))

    def _master_menu(self, master_id: str, point: QPoint) -> None:
        session = self.session
        menu = QMenu(self)
        menu.addAction("Open on the desk", lambda: session.show_master(master_id))
        menu.addAction("New master based on it", lambda: self.shelf.new_master(master_id))
        menu.addAction("Delete…", lambda: self.delete_master(master_id))
        menu.popup(point if not point.isNull() else QCursor.pos())

    def closeEvent(self, event: QCloseEvent) -> None:
        event.setAccepted(self.files.may_leave())
