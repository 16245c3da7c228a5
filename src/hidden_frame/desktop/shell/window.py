"""One window: a publication's Shelf, desk, Properties and Run, put together."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QGuiApplication, QKeyEvent, QShowEvent
from PySide6.QtWidgets import (
    QMainWindow,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.commands.actions.at_caret import CaretActions
from hidden_frame.desktop.commands.actions.clipboard import Clipboard
from hidden_frame.desktop.commands.actions.edit import EditActions
from hidden_frame.desktop.commands.actions.items import ItemActions
from hidden_frame.desktop.commands.actions.lists import ListActions
from hidden_frame.desktop.commands.actions.page_clipboard import PageClipboard
from hidden_frame.desktop.commands.actions.pages import PageActions
from hidden_frame.desktop.commands.actions.stories import StoryActions
from hidden_frame.desktop.commands.actions.text import TextActions
from hidden_frame.desktop.commands.dialogs import Dialogs
from hidden_frame.desktop.commands.every import every_command
from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.files.files import Files
from hidden_frame.desktop.files.journal import Keeper
from hidden_frame.desktop.files.left_bar import LeftBar
from hidden_frame.desktop.files.recovering import Recovering
from hidden_frame.desktop.files.whereabouts import whereabouts
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.panels.checks import ChecksPanel
from hidden_frame.desktop.panels.hints import HintCard
from hidden_frame.desktop.panels.properties.panel import Properties
from hidden_frame.desktop.panels.shelf.colours import ColourList
from hidden_frame.desktop.panels.shelf.items import ItemList
from hidden_frame.desktop.panels.shelf.shelf import Shelf
from hidden_frame.desktop.panels.shelf.steps import StepList
from hidden_frame.desktop.panels.shelf.stories import StoryList
from hidden_frame.desktop.panels.shelf.styles import StyleList
from hidden_frame.desktop.panels.shelf.tabs import NAMES, ShelfTabs
from hidden_frame.desktop.shell.bars import Banner, Notice, StatusLine, TextStrip, TopBar
from hidden_frame.desktop.shell.menus import PointerMenus
from hidden_frame.desktop.shell.screen_room import FIRST_SIZE, LEAST_SIZE, first_place, within
from hidden_frame.desktop.shell.text_menu import TextMenu
from hidden_frame.desktop.state.choices import awaits_picture, place_picture
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.desktop.views.desk.rulers import RuledDesk
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.desktop.views.run.view import RunView
from hidden_frame.edit.carry.pages import publication_of
from hidden_frame.edit.pages.folios import masters_with_folio, remove_folios
from hidden_frame.interact.words.told import FOLIOS_PUT_AWAY
from hidden_frame.model.publication import Publication

if TYPE_CHECKING:
    from hidden_frame.desktop.views.board.board import Board
    from hidden_frame.desktop.views.flatplan.flatplan import Flatplan
    from hidden_frame.desktop.views.writing.galley import Galley

Opener = Callable[[Publication, Mapping[str, bytes], Path | None], object]


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
        self.keeper = Keeper(session, self.files.preview, self)
        self.files.saver.saved = self.keeper.keep_version
        self.files.saver.failed = self.keeper.keep_unsaved
        self.files.saver.about_to = self.keeper.saving
        self.files.give_up = self.keeper.keep_now
        self.dialogs = Dialogs(session, self.desk, self, self.files.show_new)
        self.run = RunView(session, self.thumbnails)
        self.checks = ChecksPanel(session)
        self.checks.guide_wanted.connect(self.dialogs.guide)
        self.files.found = self.checks.findings_now
        self.items = ItemActions(session, self)
        self.pages = PageActions(session, self)
        self.text = TextActions(session, self.desk)
        self.at_caret = CaretActions(session, self.desk, self)
        self.lists = ListActions(session, self.desk, self)
        self.clipboard = Clipboard(session, self.desk)
        self.shelf = Shelf(session)
        self.item_list = ItemList(session)
        self.colours = ColourList(session, self.desk)
        self.steps = StepList(session)
        self.stories = StoryActions(session, self.desk, self.dialogs)
        self.clipboard.bring_in = self.stories.bring_in
        self.desk.text.pasting.ask = self._ask_pasted_styles
        self.story_list = StoryList(session, self.stories)
        self.styles = StyleList(session, self.desk, self.dialogs.style)
        self.tabs = ShelfTabs(
            self.shelf, self.story_list, self.styles, self.item_list, self.colours, self.steps
        )
        self.page_clipboard = PageClipboard(session, self)
        self.edits = EditActions(
            session, self.desk, self.items, self.pages, self.clipboard, self.page_clipboard,
            self.run.hasFocus,
        )  # fmt: skip
        self.commands = self.dialogs.commands = Commands(self, every_command(self))
        self.properties = self.dialogs.properties = Properties(session, self.desk.text, self._do)
        self.top = TopBar(session, self.commands)
        self.banner = Banner(session)
        self.others: Callable[[], list[Window]] = lambda: [self]
        self.left_bar = LeftBar()
        self.left_bar.compare = self.dialogs.compare_left
        self.keeper.where = lambda: whereabouts(session, self.desk.text)
        self.recovering = Recovering(session, self.desk, self.keeper, self.left_bar)
        self.left_bar.go_on = self.dialogs.go_on = self.recovering.go_on
        self.strip = TextStrip(session, self.desk, self.commands)
        self.status = StatusLine(session, self.desk, self.commands)
        self.commands.say = self.status.tell
        self._lay_out()
        self.menus = PointerMenus(self, self.commands, self.properties, self)
        self.text_menu = TextMenu(self, self.commands, self)
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
        session.noticed.connect(self._tell)
        session.undoable.connect(lambda told: self._tell(told, session.undo))
        session.changed.connect(self._refresh)
        session.changed.connect(self._untell)
        session.looked.connect(self._refresh)
        settings().changed.connect(self._take_settings)
        self.properties.apply_wanted.connect(self.pages.apply_masters)
        self.properties.size_wanted.connect(self.dialogs.size)
        self.shelf.masters.pointed.connect(self.run.ring)
        self.shelf.master_menu.connect(self.menus.master)
        self.checks.counted.connect(self.status.tell_checks)
        desk.master_item_pulled.connect(self.menus.choices)
        desk.menu_wanted.connect(self.menus.item)
        desk.text_menu_wanted.connect(self.text_menu.show)
        desk.list_pressed.connect(self.lists.list_here)
        desk.overflow_pressed.connect(lambda _, point: self.menus.overflow().popup(point))
        desk.dropped.connect(self.clipboard.take)
        self.run.menu_wanted.connect(self.menus.pages)
        self.run.section_menu_wanted.connect(self.menus.section)

    @cached_property
    def board(self) -> Board:
        """Made when it is first shown, as the flatplan is: the desk is there sooner."""
        from hidden_frame.desktop.views.board.board import Board

        board = Board(self.session, self.thumbnails)
        board.add_commands(self.commands)
        board.view.pointed.connect(self.run.ring)
        board.view.menu_wanted.connect(self.menus.master)
        board.view.delete_wanted.connect(self.pages.delete_master)
        self.middle.addWidget(board)
        return board

    @cached_property
    def galley(self) -> Galley:
        from hidden_frame.desktop.views.writing.galley import Galley

        galley = Galley(self.session, self.desk.text, self.desk.text_mouse)
        galley.text.menu_wanted.connect(self.text_menu.show)
        galley.closed.connect(self.toggle_galley)
        galley.alone.connect(self.ruled.setHidden)
        galley.hide()
        self.beside.addWidget(galley)
        self.beside.setStretchFactor(0, 1)
        return galley

    def galley_shown(self) -> bool:
        return "galley" in self.__dict__ and self.galley.isVisible()

    def toggle_galley(self) -> None:
        """The story as continuous text beside the desk, or the desk alone."""
        shown = self.galley_shown()
        if not shown:
            self.session.show_desk()
            wide = self.beside.width()
            self.galley.show()
            self.beside.setSizes([wide - min(wide // 2, 420), min(wide // 2, 420)])
            self.galley.refresh()
        else:
            self.galley.wide.setChecked(False)
            self.galley.hide()
            self.desk.setFocus()
        self.commands.refresh()

    @cached_property
    def flatplan(self) -> Flatplan:
        from hidden_frame.desktop.views.flatplan.flatplan import Flatplan

        flatplan = Flatplan(self.session, self.thumbnails)
        flatplan.add_commands(self.commands)
        flatplan.view.menu_wanted.connect(self.menus.pages)
        flatplan.view.section_menu_wanted.connect(self.menus.section)
        self.shelf.masters.pointed.connect(flatplan.view.ring)
        self.middle.addWidget(flatplan)
        return flatplan

    def _centre(self) -> tuple[QWidget, QWidget]:
        """What is shown in the middle, and the part of it that has the keyboard."""
        if self.session.pane == "board":
            return self.board, self.board.view
        if self.session.pane == "flatplan":
            return self.flatplan, self.flatplan.view
        return self.beside, self.desk

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape that no panel wants goes back to where pages are; F10 to the menus."""
        if event.key() == Qt.Key.Key_Escape:
            self._centre()[1].setFocus()
        elif event.key() == Qt.Key.Key_F10 and not event.modifiers():
            bar = self.menuBar()
            bar.setFocus()
            bar.setActiveAction(bar.actions()[0])
        else:
            super().keyPressEvent(event)

    def _tell(self, sentence: str, back: Callable[[], object] | None = None) -> None:
        self.notice.about = self.session.kept.now
        self.notice.say(sentence, back)

    def _untell(self) -> None:
        """A notice about a step goes when the step is undone."""
        about, history = self.notice.about, self.session.kept
        if about is not history.now and all(s.publication is not about for s in history.past):
            self.notice.about = None
            self.notice.hide()

    def _lay_out(self) -> None:
        middle = QWidget()
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.left_bar, self.banner, self.strip):
            column.addWidget(part)
        self.ruled = RuledDesk(self.desk)
        self.middle = QStackedWidget()
        self.beside = QSplitter(Qt.Orientation.Horizontal)
        self.beside.setChildrenCollapsible(False)
        self.beside.addWidget(self.ruled)
        self.middle.addWidget(self.beside)
        column.addWidget(self.middle, 1)
        column.addWidget(self.checks)
        self.across = QSplitter(Qt.Orientation.Horizontal)
        for panel in (self.tabs, middle, self.properties):
            self.across.addWidget(panel)
        self.across.setStretchFactor(1, 1)
        self.across.setSizes([256, 728, 296])
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
        self.setMinimumSize(*LEAST_SIZE)
        size = settings().now.size
        self.resize(QSize(*size) if size is not None else FIRST_SIZE)
        for splitter, sizes in ((self.across, settings().now.across),
                                (self.down, settings().now.down)):  # fmt: skip
            if len(sizes) == splitter.count() and all(s > 0 for s in sizes):
                splitter.setSizes(list(sizes))

    def showEvent(self, event: QShowEvent) -> None:
        """Into the free part of the screen, frame and title included, once these are known."""
        super().showEvent(event)
        self._unsized = settings().now.size is None and not event.spontaneous()
        for later in (0, 250):
            QTimer.singleShot(later, self, self.fit_screen)

    def fit_screen(self) -> None:
        """No larger than the screen has room for, and all of it in sight."""
        if (
            self.isMaximized()
            or self.isFullScreen()
            or QGuiApplication.platformName() == "offscreen"
        ):
            return
        place = first_place if self._unsized else within
        free = self.screen().availableGeometry()
        self.setGeometry(place(self.geometry(), self.frameGeometry(), free))

    # -- settings and look -----------------------------------------------------------

    def _take_settings(self) -> None:
        now = settings().now
        self.tabs.setVisible(now.shelf_shown)
        self.properties.setVisible(now.properties_shown)
        self.run.setVisible(settings().now.run and self.session.pane != "flatplan")
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
        self.colours.refresh()
        for widget in (self.desk, self.run.viewport(), self.ruled, self._centre()[0]):
            widget.update()

    def only_desk(self) -> None:
        """Everything but the desk hidden, or all of it shown again."""
        now = settings().now
        shown = now.shelf_shown or now.properties_shown or now.run
        settings().change(shelf_shown=not shown, properties_shown=not shown, run=not shown)

    def show_shelf(self, name: str) -> None:
        settings().change(shelf_shown=True)
        self.tabs.show_panel(NAMES.index(name))

    def _refresh(self) -> None:
        session = self.session
        shown, hand = self._centre()
        if self.middle.currentWidget() is not shown:
            self.middle.setCurrentWidget(shown)
            self.run.setVisible(settings().now.run and session.pane != "flatplan")
            hand.setFocus()
        if session.draft is not None:
            return  # a gesture is under way: what can be done does not change with each step
        self.commands.refresh()
        name = session.path.name if session.path else session.called or "not saved yet"
        self.setWindowTitle(f"{session.publication.title}[*] — {name} — Hidden Frame")
        self.setWindowModified(session.modified)

    # -- commands --------------------------------------------------------------------

    def toggle_checks(self) -> None:
        self.checks.refresh()
        self.checks.setVisible(not self.checks.isVisible())

    def _ask_pasted_styles(
        self, publication: Publication, likely: dict[str, str], asked: list[str]
    ) -> dict[str, str] | None:
        from hidden_frame.desktop.dialogs.pasted_styles import ask_styles

        return ask_styles(self, publication, likely, asked)

    def windows(self) -> list[tuple[str, Callable[[], object], bool]]:
        """Every open window, as rows of a menu; this one is ticked."""
        return [
            (w.windowTitle().replace("[*]", "*" * w.isWindowModified()), w.come_forward, w is self)
            for w in self.others()
        ]

    def come_forward(self) -> None:
        """In front of all others, with the keyboard."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.raise_()
        self.activateWindow()

    def show_section(self, section_id: str, field: str) -> None:
        """A section's properties, with the keyboard in one of its fields."""
        self.session.select_section(section_id)
        settings().change(properties_shown=True)
        self.properties.focus_field(field)

    def toggle_board(self) -> None:
        """The family of masters, or the desk again as it was."""
        if self.session.pane == "board":
            self.session.show_desk()
        else:
            self.session.show_board()

    def toggle_flatplan(self) -> None:
        """The whole publication, or the page again from which one came."""
        if self.session.pane == "flatplan":
            self.session.show_desk()
        else:
            self.session.show_flatplan()

    def place_pictures(self) -> None:
        """Pictures or plain texts chosen from the disk, laid out on the page in sight; one alone
        fills the empty frame that is selected."""
        paths = PictureDialog.ask(self, "Place pictures", several=True, texts=True)
        picture = len(paths) == 1 and paths[0].suffix.lower() != ".txt"
        if picture and awaits_picture(self.session):
            place_picture(self.session, paths[0])
        elif paths:
            self.session.show_desk()
            self.clipboard.take_files(paths, None)

    def remove_folios(self) -> None:
        session = self.session
        if not masters_with_folio(session.publication):
            session.noticed.emit("No master has a folio; Folios… places one.")
        elif session.edit("remove all folios", remove_folios):
            session.noticed.emit(FOLIOS_PUT_AWAY)

    def new_from_pages(self) -> None:
        """The chosen pages as a publication of their own, in a window of its own."""
        session = self.session
        chosen = self.pages.chosen()
        made = publication_of(session.publication, chosen, f"{session.publication.title}, part")
        self.files.show_new(made, dict(session.blobs))

    def closeEvent(self, event: QCloseEvent) -> None:
        leave = self.files.may_leave()
        if leave:
            self.keep_settings()
            settings().changed.disconnect(self._take_settings)
            self.keeper.close()
            self.pictures.drawings.close()
            self.session.blobs.close()
            self.closed.emit()
        event.setAccepted(leave)
