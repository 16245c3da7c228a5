"""The strips around the desk: top bar, banner, text strip, status line, notices."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QMenu,
    QToolButton,
    QWidget,
)

from hidden_frame.compose.facts import describe
from hidden_frame.compose.markers import every_marker
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look.fitting import LEAST, Folding, ShortLabel, as_high_as_its_words
from hidden_frame.desktop.look.icons import dress
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.interact.finds.plan import count_in_words
from hidden_frame.interact.sight.value import Tool
from hidden_frame.model.lookup import find_master, find_page, masters_by_id
from hidden_frame.model.number_format import decimal, grouped
from hidden_frame.model.plural import plural
from hidden_frame.model.text import Marker

TOOLS: tuple[tuple[Tool, str, str, str], ...] = (
    ("select", "Select", "ph.cursor", "1"),
    ("text", "Text", "ph.text-t", "2"),
    ("picture", "Picture", "ph.image", "3"),
    ("rectangle", "Shape", "ph.polygon", "4"),
    ("line", "Line", "ph.line-segment", "5"),
)


class TopBar(QFrame):
    """Pages or Masters, undo and redo, and what can be drawn."""

    def __init__(self, session: Session, commands: Commands) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("TopBar")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 12, 5)
        row.setSpacing(4)
        self.modes = {}
        group = QButtonGroup(self)
        for mode, text in (
            ("pages", "Pages"),
            ("masters", "Masters"),
            ("board", "Board"),
            ("flatplan", "Flatplan"),
        ):
            button = QToolButton()
            button.setObjectName("Mode")
            button.setText(text)
            button.setCheckable(True)
            button.setProperty("masters", "true" if mode in ("masters", "board") else "false")
            tips = {
                "board": f"The whole family of masters ({commands.key('board')})",
                "flatplan": f"All pages in order, by section ({commands.key('flatplan')})",
            }
            button.setToolTip(tips.get(mode, f"{text} on the desk (F3 changes between them)"))
            group.addButton(button)
            row.addWidget(button)
            self.modes[mode] = button
        self.modes["pages"].clicked.connect(lambda: session.show_page(session.page_id))
        self.modes["masters"].clicked.connect(self._show_master)
        self.modes["board"].clicked.connect(session.show_board)
        self.modes["flatplan"].clicked.connect(session.show_flatplan)
        row.addSpacing(14)
        turns = [
            _action_button(commands, command, f"ph.arrow-u-up-{_TURN[command]}")
            for command in ("undo", "redo")
        ]
        for button in turns:
            row.addWidget(button)
        row.addStretch(1)
        self.tools: dict[str, QToolButton] = {}
        tool_group = QButtonGroup(self)
        for tool, text, picture, key in TOOLS:
            button = QToolButton()
            button.setText(text)
            dress(button, picture)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
            button.setCheckable(True)
            button.setToolTip(f"{text} ({key})")
            button.clicked.connect(lambda _, t=tool: session.set_tool(t))
            tool_group.addButton(button)
            row.addWidget(button)
            self.tools[tool] = button
        self._shapes(self.tools["rectangle"])
        row.addSpacing(10)
        self.folios = _action_button(commands, "folios", "ph.hash", "Folios…")
        row.addWidget(self.folios)
        row.addStretch(1)
        self.finder = _action_button(commands, "finder", "ph.magnifying-glass", "Find")
        row.addWidget(self.finder)
        self.proof = _action_button(commands, "proof", "ph.eye", "Proof")
        self.proof.setCheckable(True)
        row.addWidget(self.proof)
        tools = [self.tools[t] for t in ("line", "rectangle", "picture", "text", "select")]
        self.folding = Folding(
            self, row, [self.finder, self.proof, self.folios, *turns[::-1], *tools]
        )
        session.looked.connect(self.refresh)
        session.changed.connect(self.refresh)
        self.refresh()

    def _show_master(self) -> None:
        self.session.show_master(self.session.master_id, on_desk=True)

    def _shapes(self, button: QToolButton) -> None:
        """Rectangle, rounded and ellipse, in a menu of the shape tool."""
        menu = QMenu(button)
        for form in ("rectangle", "rounded", "ellipse"):
            action = menu.addAction(form.capitalize())
            action.triggered.connect(lambda _=False, f=form: self.session.set_tool(f))
        button.setMenu(menu)
        button.setPopupMode(QToolButton.ToolButtonPopupMode.DelayedPopup)
        button.setToolTip("Shape (4); hold for rounded and ellipse")

    def refresh(self) -> None:
        session = self.session
        self.modes[session.mode if session.pane == "desk" else session.pane].setChecked(True)
        for mode in ("masters", "board"):
            self.modes[mode].setEnabled(bool(session.publication.masters))
        shown = "rectangle" if session.tool in ("rounded", "ellipse") else session.tool
        self.tools[shown].setChecked(True)
        self.proof.setChecked(session.proof)


_TURN = {"undo": "left", "redo": "right"}


def _action_button(commands: Commands, command: str, picture: str, text: str = "") -> QToolButton:
    button = QToolButton()
    action = commands[command]
    dress(button, picture)
    if text:
        button.setText(text)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
    button.clicked.connect(action.trigger)
    button.setAccessibleName(action.text())

    def refresh() -> None:
        button.setEnabled(action.isEnabled())
        key = action.shortcut().toString()
        button.setToolTip(action.text() + (f" ({key})" if key else ""))

    action.changed.connect(refresh)
    refresh()
    return button


class Banner(QFrame):
    """Names the master on the desk and how many pages follow it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("Banner")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 7, 12, 7)
        self.setMinimumWidth(LEAST)
        self.label = ShortLabel()
        row.addWidget(self.label, 1)
        back = QToolButton()
        back.setText("Back to pages")
        back.setToolTip("Back to the page you came from (F3)")
        back.clicked.connect(lambda: session.show_page(session.page_id))
        row.addWidget(back)
        session.looked.connect(self.refresh)
        session.changed.connect(self.refresh)
        self.refresh()

    def words(self) -> str:
        """“Master · Month table, on Text · 12 pages follow”."""
        session = self.session
        master = find_master(session.publication, session.master_id)
        count = len(session.composition.followers(master.id))
        base = masters_by_id(session.publication).get(master.base or "")
        on = f", on {base.name}" if base is not None else ""
        pages = "1 page follows" if count == 1 else f"{count} pages follow"
        return f"Master · {master.name}{on} · {pages}"

    def refresh(self) -> None:
        session = self.session
        shown = session.mode == "masters" and session.pane == "desk" and not session.proof
        self.setVisible(shown)
        if shown:
            self.label.setText(self.words())


class TextStrip(QFrame):
    """Styles and markers for the text being edited."""

    def __init__(self, session: Session, desk: Desk, commands: Commands) -> None:
        super().__init__()
        self.session = session
        self.desk = desk
        self.commands = commands
        self.setObjectName("TextStrip")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 12, 5)
        self.style_field = Choice("Paragraph style")
        self.style_field.setMinimumContentsLength(15)
        self.style_field.committed.connect(self._paragraph)
        row.addWidget(QLabel("Paragraph"))
        row.addWidget(self.style_field)
        self.look = Choice("Character style")
        self.look.setMinimumContentsLength(11)
        self.look.committed.connect(self._character)
        row.addWidget(QLabel("Characters"))
        row.addWidget(self.look)
        self.marker = QToolButton()
        self.marker.setText("Insert marker ▾")
        self.marker.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.marker.setToolTip("Text that the program fills in")
        self.menu = QMenu(self.marker)
        self.menu.aboutToShow.connect(self.fill_markers)
        self.marker.setMenu(self.menu)
        row.addWidget(self.marker)
        row.addStretch(1)
        done = QToolButton()
        done.setText("Done")
        done.setToolTip("Leave the text (Escape)")
        done.clicked.connect(lambda: session.edit_text(None))
        row.addWidget(done)
        self.folding = Folding(self, row, [self.marker])
        session.looked.connect(self.refresh)
        session.changed.connect(self.refresh)
        desk.text.moved.connect(self.refresh)
        self.refresh()

    def fill_markers(self) -> None:
        """Every marker there is, the publication's details among them."""
        self.menu.clear()
        for name in ("running head", "marker date"):
            self.menu.addAction(self.commands[name])
        self.menu.addSeparator()
        for label, marker in every_marker(self.session.publication.details):
            self._marker_action(label, marker)

    def _marker_action(self, label: str, marker: Marker) -> None:
        action = self.menu.addAction(label)
        action.triggered.connect(
            lambda: self._then_desk(lambda: self.desk.text.insert_marker(marker))
        )

    def _then_desk(self, change: Callable[[], None]) -> None:
        change()
        self.desk.setFocus()

    def _paragraph(self, style: object) -> None:
        self._then_desk(lambda: self.desk.text.dress.set_paragraph_style(str(style)))

    def _character(self, style: object) -> None:
        name = None if style is None else str(style)
        self._then_desk(lambda: self.desk.text.dress.set_character_style(name))

    def refresh(self) -> None:
        editing = self.session.editing is not None
        self.setVisible(editing)
        if editing:
            publication = self.session.publication
            styles = [(s.name, s.id) for s in publication.paragraph_styles]
            self.style_field.show_choice(styles, self.desk.text.dress.paragraph_style())
            looks: list[tuple[str, object]] = [("plain", None)]
            looks += [(s.name, s.id) for s in publication.character_styles]
            self.look.show_choice(looks, None)


class StatusLine(QFrame):
    """What the page prints as, and how far the desk is zoomed."""

    def __init__(self, session: Session, desk: Desk, commands: Commands) -> None:
        super().__init__()
        self.session = session
        self.desk = desk
        self.setObjectName("StatusLine")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 10, 4)
        row.setSpacing(4)
        self.page = ShortLabel(least=90)
        row.addWidget(self.page, 3)
        self.count = ShortLabel(least=90)
        self.count.setAlignment(Qt.AlignmentFlag.AlignRight)
        row.addWidget(self.count, 2)
        self.checks = QToolButton()
        self.checks.setToolTip(commands.tip("checks"))
        self.checks.setAccessibleName("Checks")
        self.checks.clicked.connect(commands["checks"].trigger)
        row.addWidget(self.checks)
        row.addSpacing(12)
        self.snap = QToolButton()
        self.snap.setObjectName("Snap")
        self.snap.setText("Snap to ▾")
        dress(self.snap, "ph.magnet", 16)
        self.snap.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.snap.setToolTip(
            f"What items snap to; {commands.tip('snapping')} turns snapping on and off"
        )
        self.snap.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.snap.setMenu(commands.menus["View > Snap to"])
        row.addWidget(self.snap)
        row.addSpacing(12)
        fits = [_small("Page", commands, "fit page"), _small("Spread", commands, "fit spread")]
        for button in (*fits, _small("−", commands, "zoom out")):
            row.addWidget(button)
        self.zoom = QLabel()
        self.zoom.setMinimumWidth(46)
        self.zoom.setAlignment(Qt.AlignmentFlag.AlignCenter)
        row.addWidget(self.zoom)
        row.addWidget(_small("+", commands, "zoom in"))
        self.folding = Folding(self, row, [*fits, self.snap])
        settings().changed.connect(self.refresh)
        session.looked.connect(self.refresh)
        session.changed.connect(self.refresh)
        desk.camera.moved.connect(self.refresh)
        self.refresh()

    def tell(self, words: str) -> None:
        """What a menu says of the entry under the pointer, instead of the page; "" is the page."""
        if words:
            self.page.setText(words)
        else:
            self.refresh()

    def tell_checks(self, count: int, complete: bool) -> None:
        """How many doubtful things there are, so far or in all; a click lists them."""
        told = f"{grouped(count)} to check" if count else "No problems found"
        self.checks.setText(told if complete else f"{told} so far")
        self.checks.setProperty("doubtful", bool(count))

    def words(self) -> str:
        session = self.session
        if session.pane == "board":
            count = len(session.publication.masters)
            return plural(count, "{n} master", "{n} masters")
        if session.mode == "masters":
            return f"{session.side} face" if session.publication.setup.facing else "one face"
        page = find_page(session.publication, session.page_id)
        return describe(session.composition.facts[page.id], page)

    def refresh(self) -> None:
        self.page.setText(self.words())
        chosen = len(self.session.pages)
        some = f"{chosen} selected · " if chosen > 1 else ""
        self.count.setText(some + count_in_words(self.session.publication))
        self.snap.setText("Snap to ▾" if settings().now.snapping else "Snap off ▾")
        pixels = self.desk.logicalDpiX() / 72
        self.zoom.setText(f"{decimal(self.desk.camera.view.zoom / pixels * 100, 0)} %")


def _small(text: str, commands: Commands, command: str) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setToolTip(commands.tip(command))
    button.setAccessibleName(commands[command].text())
    button.clicked.connect(commands[command].trigger)
    return button


class Notice(QFrame):
    """A sentence over the desk that goes away by itself."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._over = parent
        self.setObjectName("Notice")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 9, 16, 9)
        self.label = QLabel()
        self.label.setWordWrap(True)
        row.addWidget(self.label)
        self.undo = QToolButton()
        self.undo.setText("Undo")
        self.undo.setToolTip("Undo it")
        self.undo.clicked.connect(self._take_back)
        row.addWidget(self.undo)
        self._back: Callable[[], object] | None = None
        self.about: object = None  # what a notice about a step is about
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.hide)
        parent.installEventFilter(self)
        self.hide()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize and self.isVisible():
            self._settle()
        return False

    def _settle(self) -> None:
        """As wide as its sentence, or as there is room; at the foot of what it lies over."""
        over = self._over
        natural = self.label.fontMetrics().horizontalAdvance(self.label.text()) + 36
        natural += self.undo.sizeHint().width() + 8 if self._back is not None else 0
        wide = max(min(natural, 560, over.width() - 40), 160)
        as_high_as_its_words(self, wide)
        self.move((over.width() - self.width()) // 2, over.height() - self.height() - 18)

    def _take_back(self) -> None:
        self.hide()
        if self._back is not None:
            self._back()

    def say(self, sentence: str, back: Callable[[], object] | None = None) -> None:
        """Shows the sentence for as long as it takes to read it, with Undo if there is a way
        back."""
        self.label.setText(sentence)
        self._back = back
        self.undo.setVisible(back is not None)
        self._settle()
        self.show()
        self.raise_()
        self._timer.start(3000 + 55 * len(sentence) + (4000 if back is not None else 0))
