"""One window: a publication's Shelf, desk, Properties and Run, put together."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QCloseEvent, QCursor
from PySide6.QtWidgets import (
    QMainWindow,
    QMenu,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.remedies import remedies
from hidden_frame.compose.shown import change_shown, shown_item
from hidden_frame.desktop.actions.choices import go_to_item, hide_item, make_item_local
from hidden_frame.desktop.actions.clipboard import Clipboard
from hidden_frame.desktop.actions.items import ItemActions
from hidden_frame.desktop.actions.page_clipboard import PageClipboard
from hidden_frame.desktop.actions.pages import PageActions
from hidden_frame.desktop.actions.text import TextActions
from hidden_frame.desktop.bars import Banner, Notice, StatusLine, TextStrip, TopBar
from hidden_frame.desktop.board.board import Board
from hidden_frame.desktop.checks import ChecksPanel
from hidden_frame.desktop.command_list import command_list
from hidden_frame.desktop.commands import Commands
from hidden_frame.desktop.desk.canvas import Desk
from hidden_frame.desktop.desk.rulers import RuledDesk
from hidden_frame.desktop.dialogs.desk_settings import DeskSettings
from hidden_frame.desktop.dialogs.finder import Finder
from hidden_frame.desktop.dialogs.folios import FoliosDialog
from hidden_frame.desktop.dialogs.goto import GoToDialog
from hidden_frame.desktop.dialogs.guides import GuidesDialog
from hidden_frame.desktop.dialogs.overrides import OverridesDialog
from hidden_frame.desktop.dialogs.pairing import PairingDialog
from hidden_frame.desktop.dialogs.styles import StyleDialog
from hidden_frame.desktop.files import Files
from hidden_frame.desktop.flatplan.flatplan import Flatplan
from hidden_frame.desktop.hints import HintCard
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.properties.page import PageForm
from hidden_frame.desktop.properties.panel import Properties
from hidden_frame.desktop.ribbon import ribbon_icon
from hidden_frame.desktop.run.thumbnails import Thumbnails
from hidden_frame.desktop.run.view import Run
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.settings import settings
from hidden_frame.desktop.shelf.colours import ColourList
from hidden_frame.desktop.shelf.items import ItemList
from hidden_frame.desktop.shelf.shelf import Shelf
from hidden_frame.desktop.shelf.steps import StepList
from hidden_frame.desktop.shelf.tabs import NAMES, ShelfTabs
from hidden_frame.edit.carry_pages import publication_of
from hidden_frame.edit.families import set_ribbon
from hidden_frame.edit.folios import masters_with_folio, remove_folios
from hidden_frame.edit.masters import RIBBONS, Mode, apply_masters
from hidden_frame.edit.text import set_paragraph_style
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_section
from hidden_frame.model.publication import Publication

Opener = Callable[[Publication, dict[str, bytes], Path | None], object]


class Window(QMainWindow):
    """`opener` opens another publication in a window of its own."""

    closed = Signal()

    def __init__(self, session: Session, opener: Opener | None = None) -> None:
        super().__init__()
        self.session = session
        self.pictures = PictureShelf(session.blobs)
        self.thumbnails = Thumbnails(self.pictures)
        self.files = Files(session, self.thumbnails, self, opener)
        self.desk = Desk(session, self.pictures)
        self.run = Run(session, self.thumbnails)
        self.board = Board(session, self.thumbnails)
        self.flatplan = Flatplan(session, self.thumbnails)
        self.checks = ChecksPanel(session)
        self.items = ItemActions(session, self)
        self.pages = PageActions(session, self)
        self.text = TextActions(session, self.desk)
        self.clipboard = Clipboard(session, self.desk)
        self.shelf = Shelf(session)
        self.item_list = ItemList(session)
        self.colours = ColourList(session, self.desk)
        self.steps = StepList(session)
        self.tabs = ShelfTabs(self.shelf, self.item_list, self.colours, self.steps)
        self.commands = Commands(self, command_list(self))
        self.properties = Properties(session, self.desk.text, self._do)
        self.board.add_commands(self.commands)
        self.flatplan.add_commands(self.commands)
        self.top = TopBar(session, self.commands)
        self.banner = Banner(session)
        self.strip = TextStrip(session, self.desk)
        self.page_clipboard = PageClipboard(session, self)
        self.status = StatusLine(session, self.desk, self.commands)
        self._lay_out()
        self.notice = Notice(self.middle)
        self.hints = HintCard(self.desk)
        self._connect()
        self._take_settings()
        self._refresh()

    def _do(self, command: str) -> None:
        self.commands.refresh()
        self.commands[command].trigger()

    def _connect(self) -> None:
        session, desk = self.session, self.desk
        session.noticed.connect(self.notice.say)
        session.undoable.connect(lambda told: self.notice.say(told, session.undo))
        session.changed.connect(self._refresh)
        session.looked.connect(self._refresh)
        settings().changed.connect(self._take_settings)
        self.properties.apply_wanted.connect(self.pages.apply_masters)
        self.shelf.masters.pointed.connect(self.run.ring)
        self.shelf.masters.pointed.connect(self.flatplan.view.ring)
        self.shelf.master_menu.connect(self._master_menu)
        self.board.view.pointed.connect(self.run.ring)
        self.board.view.menu_wanted.connect(self._master_menu)
        self.checks.counted.connect(self.status.tell_checks)
        self.flatplan.view.menu_wanted.connect(self._page_menu)
        self.flatplan.view.section_menu_wanted.connect(self._section_menu)
        self.board.view.delete_wanted.connect(self.pages.delete_master)
        desk.master_item_pulled.connect(self.choices)
        desk.menu_wanted.connect(self._item_menu)
        desk.overflow_pressed.connect(lambda _, point: self.overflow_menu().popup(point))
        desk.dropped.connect(self.clipboard.take)
        self.run.menu_wanted.connect(self._page_menu)

    def _lay_out(self) -> None:
        middle = QWidget()
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.banner, self.strip):
            column.addWidget(part)
        self.ruled = RuledDesk(self.desk)
        self.middle = QStackedWidget()
        self.middle.addWidget(self.ruled)
        self.middle.addWidget(self.board)
        self.middle.addWidget(self.flatplan)
        column.addWidget(self.middle, 1)
        column.addWidget(self.checks)
        self.across = QSplitter(Qt.Orientation.Horizontal)
        for panel in (self.tabs, middle, self.properties):
            self.across.addWidget(panel)
        self.across.setStretchFactor(1, 1)
        self.across.setSizes([232, 752, 296])
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
        self.resize(*settings().now.size)
        for splitter, sizes in ((self.across, settings().now.across),
                                (self.down, settings().now.down)):  # fmt: skip
            if len(sizes) == splitter.count() and all(s > 0 for s in sizes):
                splitter.setSizes(list(sizes))

    # -- settings and look -----------------------------------------------------------

    def _take_settings(self) -> None:
        self.run.setVisible(settings().now.run and self.session.view != "flatplan")
        self.commands.refresh()

    def keep_settings(self) -> None:
        """Remembers the window's size and that of its panels."""
        changes: dict[str, object] = {"across": tuple(self.across.sizes())}
        if self.run.isVisible():
            changes["down"] = tuple(self.down.sizes())
        if not (self.isMaximized() or self.isFullScreen()):
            changes["size"] = (self.width(), self.height())
        settings().change(**changes)

    def redress(self) -> None:
        """Everything that holds a colour of the theme, in the present one."""
        self.desk.paper.forget()
        self.shelf.refresh_look()
        for panel in (self.item_list, self.colours, self.steps):
            panel._shown = None
            panel.refresh()
        for widget in (self.desk, self.run.viewport(), self.ruled, self.board.view.viewport(),
                       self.flatplan.view.viewport()):  # fmt: skip
            widget.update()

    def show_shelf(self, name: str) -> None:
        self.tabs.show_panel(NAMES.index(name))

    def _refresh(self) -> None:
        session = self.session
        shown, hand = {
            "board": (self.board, self.board.view),
            "flatplan": (self.flatplan, self.flatplan.view),
            "desk": (self.ruled, self.desk),
        }[session.view]
        if self.middle.currentWidget() is not shown:
            self.middle.setCurrentWidget(shown)
            self.run.setVisible(settings().now.run and session.view != "flatplan")
            hand.setFocus()
        if session.draft is not None:
            return  # a gesture is under way: what can be done does not change with each step
        self.commands.refresh()
        name = session.path.name if session.path else "not saved yet"
        self.setWindowTitle(f"{session.publication.title}[*] — {name} — Hidden Frame")
        self.setWindowModified(session.modified)

    # -- commands --------------------------------------------------------------------

    def can_delete(self) -> bool:
        session = self.session
        if session.editing is not None:
            return False
        return self.items.own() or session.guide is not None or bool(session.pages)

    def delete(self) -> None:
        """Deletes the selected items or guide, or the selected pages if the Run is worked on.

        A page that was clicked only to lay it on the desk is not lost by a key there.
        """
        session = self.session
        if session.items:
            self.items.delete()
        elif session.guide is not None:
            self.items.delete_guide()
        elif session.pages and self.on_pages():
            self.pages.delete()

    def toggle_checks(self) -> None:
        self.checks.refresh()
        self.checks.setVisible(not self.checks.isVisible())

    def select_all(self) -> None:
        if self.on_pages():
            self.pages.select("all")
        else:
            self.items.select_all()

    def select_none(self) -> None:
        if self.on_pages():
            self.pages.select("none")
        else:
            self.items.select_none()

    def can_copy(self) -> bool:
        session = self.session
        if session.editing is not None:
            return False
        return bool(session.items) or (bool(session.pages) and self.on_pages())

    def can_cut(self) -> bool:
        session = self.session
        return self.items.own() or (not session.items and bool(session.pages) and self.on_pages())

    def copy(self) -> None:
        """The selected items, or else the selected pages."""
        if self.session.items:
            self.clipboard.copy()
        else:
            self.page_clipboard.copy()

    def cut(self) -> None:
        if self.session.items:
            self.clipboard.cut()
        else:
            self.page_clipboard.cut()

    def paste(self) -> None:
        if self.page_clipboard.holds_pages():
            self.page_clipboard.paste()
        elif self.session.view == "desk":
            self.clipboard.paste()
        else:
            self.session.noticed.emit("There are no pages on the clipboard; copy some first.")

    def on_pages(self) -> bool:
        """Whether what is done now is done to pages, not to items."""
        return self.session.view == "flatplan" or self.run.hasFocus()

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

    def open_settings(self) -> None:
        DeskSettings(self.session, self).exec()

    def toggle_board(self) -> None:
        """The family of masters, or the desk again as it was."""
        if self.session.view == "board":
            self.session.show_desk()
        else:
            self.session.show_board()

    def toggle_flatplan(self) -> None:
        """The whole publication, or the page again from which one came."""
        if self.session.view == "flatplan":
            self.session.show_desk()
        else:
            self.session.show_flatplan()

    def open_finder(self) -> None:
        Finder(self.session, self.commands, self).exec()

    def open_overrides(self) -> OverridesDialog:
        dialog = OverridesDialog(self.session, self)
        dialog.show()
        return dialog

    def open_pairing(self) -> PairingDialog:
        dialog = PairingDialog(self.session, self)
        dialog.open()
        return dialog

    def open_guides(self) -> None:
        GuidesDialog(self.session, self).exec()

    def open_goto(self) -> None:
        GoToDialog(self.session, self).exec()

    def open_folios(self) -> FoliosDialog:
        dialog = FoliosDialog(self.session, self.desk, self)
        dialog.open()
        return dialog

    def remove_folios(self) -> None:
        session = self.session
        if not masters_with_folio(session.publication):
            session.noticed.emit("No master carries a folio; Folios… places one.")
        elif session.edit("remove all folios", remove_folios):
            session.noticed.emit("Took the folios off all masters. Undo brings them back.")

    # -- menus at the pointer ----------------------------------------------------------

    def choices(self, point: QPoint) -> None:
        """The four choices for a master item that someone tried to change on a page."""
        self.choice_menu().popup(point)

    def choice_menu(self) -> QMenu:
        session = self.session
        item_id = session.items[0]
        holder = session.holder_id
        menu = self._menu("Choices")
        menu.addAction("Override here", lambda: session.unlock(holder, item_id))
        menu.addAction("Hide here", lambda: hide_item(session, item_id))
        if session.mode == "pages":
            menu.addAction("Make local", lambda: make_item_local(session, item_id))
        menu.addAction("Go to master", lambda: go_to_item(session, item_id))
        return menu

    def _menu(self, name: str) -> QMenu:
        menu = QMenu(self)
        menu.setObjectName(name)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        return menu

    def overflow_menu(self) -> QMenu:
        """Why a text does not fit, and what makes it fit."""
        session = self.session
        menu = self._menu("Overflow")
        holder, side, item_id = session.holder_id, session.side, session.items[0]
        for placed, _ in self.desk.placed_all().values():
            if placed.drawing.overflow is not None:
                menu.addAction(placed.drawing.overflow.sentence).setEnabled(False)
        menu.addSeparator()

        def fit(changes: dict[str, object]) -> None:
            session.edit(
                "fit the text", lambda p: change_shown(p, holder, side, {item_id: changes})
            )

        for offer in remedies(session.composition, holder, item_id, side):
            menu.addAction(offer.title, lambda o=offer: fit(o.changes))
        styles = menu.addMenu("Use another style")
        item = shown_item(session.publication, holder, item_id, side)
        if isinstance(item, TextFrame):
            for style in session.publication.paragraph_styles:
                text = set_paragraph_style(item.text, 0, len(item.text), style.id)
                styles.addAction(
                    f"{style.name}, {style.size:g}/{style.leading:g} pt",
                    lambda t=text: fit({"text": t}),
                )
        return menu

    def _item_menu(self, point: QPoint) -> None:
        session = self.session
        if not session.items:
            return
        if not session.may_change(session.holder_id, session.items[0]):
            self.choices(point)
            return
        self.commands.refresh()
        menu = self._menu("ItemMenu")
        for name in ("cut", "copy", "duplicate", "repeat", "delete", "", "front", "forward",
                     "backward", "back", "", "group", "ungroup", "lock"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.addMenu(self.commands.menus["Arrange > Line up"])
        menu.popup(point)

    def _page_menu(self, point: QPoint) -> None:
        menu = self._menu("PageMenu")
        self.commands.refresh()
        for name in ("page one", "start section", "end section", "join section", "",
                     "add pages", "duplicate pages", "move pages", "delete pages", "",
                     "cut", "copy", "paste", "new from pages", "",
                     "apply", "blind", "tie", "hold"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.popup(point)

    def _section_menu(self, section: str, point: QPoint) -> None:
        """What can be done with a section, at its head on the flatplan."""
        self.flatplan.view.choose_section(section, Qt.KeyboardModifier.NoModifier)
        menu = self._menu("SectionMenu")
        menu.addAction("Name and numbering…", lambda: self._open_section(section))
        menu.addAction("Join with the section before", self.commands["join section"].trigger)
        menu.addAction("Duplicate", lambda: self.pages.duplicate_section(section))
        menu.addAction("One place earlier", lambda: self.pages.move_section(section, -1))
        menu.addAction("One place later", lambda: self.pages.move_section(section, 1))
        menu.addSeparator()
        menu.addAction(
            "Delete, its pages stay", lambda: self.pages.delete_section(section, pages=False)
        )
        menu.addAction(
            "Delete with its pages", lambda: self.pages.delete_section(section, pages=True)
        )
        menu.popup(point)

    def _open_section(self, section: str) -> None:
        """Properties of a section's first page, where it is named and numbered."""
        session = self.session
        pages = find_section(session.publication, section).pages
        if pages:
            session.point_to_page(pages[0].id)
            session.looked.emit()
            form = self.properties.form
            if isinstance(form, PageForm):
                form.section.setFocus()
                form.section.selectAll()

    def new_from_pages(self) -> None:
        """The chosen pages as a publication of their own, in a window of its own."""
        session = self.session
        chosen = self.pages.chosen()
        made = publication_of(session.publication, chosen, f"{session.publication.title}, part")
        self.files.show_new(made, dict(session.blobs))

    def _master_menu(self, master_id: str, point: QPoint) -> None:
        session = self.session
        menu = self._menu("MasterMenu")
        menu.addAction("Open on the desk", lambda: self.board.view.open(master_id))
        menu.addAction("New master based on it", lambda: self.shelf.new_master(master_id))
        menu.addAction("Apply to the selected pages", lambda: self._apply(master_id, "replace"))
        menu.addAction("Add to the selected pages", lambda: self._apply(master_id, "add"))
        menu.addSeparator()
        menu.addAction("Select the pages that follow it", lambda: self._select_pages(master_id))
        ribbons = menu.addMenu("Ribbon")
        for number in range(RIBBONS):
            ribbons.addAction(
                ribbon_icon(number),
                f"Ribbon {number + 1}",
                lambda n=number: session.edit("ribbon", lambda p: set_ribbon(p, master_id, n)),
            )
        menu.addSeparator()
        menu.addAction("Delete…", lambda: self.pages.delete_master(master_id))
        menu.popup(point if not point.isNull() else QCursor.pos())

    def _apply(self, master_id: str, mode: Mode) -> None:
        pages = self.pages.chosen()
        self.session.edit("apply master", lambda p: apply_masters(p, pages, (master_id,), mode))

    def _select_pages(self, master_id: str) -> None:
        session = self.session
        found = set(session.composition.followers(master_id))
        order = session.composition.facts
        session.select_pages(tuple(p for p in order if p in found))

    def closeEvent(self, event: QCloseEvent) -> None:
        leave = self.files.may_leave()
        if leave:
            self.keep_settings()
            settings().changed.disconnect(self._take_settings)
            self.closed.emit()
        event.setAccepted(leave)
