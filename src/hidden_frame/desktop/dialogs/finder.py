"""What is looked for: in the publication, and among the commands, by name or by a word that means
the same; and what the hand and the keys do on the desk."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from operator import itemgetter
from typing import NamedTuple

from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtGui import QAction, QFont, QKeyEvent
from PySide6.QtWidgets import (  # fmt: skip
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.commands.command import Commands
from hidden_frame.desktop.dialogs.goto import go_to
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.tones import set_tone, with_tones
from hidden_frame.desktop.topics import topic_of_command
from hidden_frame.interact.goto import Destination
from hidden_frame.interact.search import search
from hidden_frame.interact.synonyms import alike

_COMMAND, _FOUND = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1
_MOST = 40


class Hint(NamedTuple):
    """What the hand or a key does, where it has no command."""

    keys: str
    does: str
    where: str


HINTS = (
    Hint("Click, Shift+click", "Select; add to the selection or take away", "desk"),
    Hint("Ctrl+click", "Select the next lower of items that overlap", "desk"),
    Hint("Drag on empty paper", "Rubber band around what it touches", "desk"),
    Hint("Ctrl+drag on empty paper", "Rubber band around what it encloses", "desk"),
    Hint("Double click", "Edit a text; pick one item out of a group", "desk"),
    Hint("Shift while dragging", "Keep to one axis, to the proportions, to 15°", "desk"),
    Hint("Alt while dragging", "Move a copy; size about the middle", "desk"),
    Hint("Ctrl while dragging", "Do not snap", "desk"),
    Hint("Arrow keys, with Shift", "Nudge by the step; by ten steps", "desk"),
    Hint("Drag from a ruler", "Pull out a guide; with Shift across the spread", "desk"),
    Hint("Drag a guide back", "Remove the guide", "desk"),
    Hint("Wheel, Ctrl+wheel", "Scroll; zoom at the pointer", "desk"),
    Hint("Space or middle button", "Drag the desk about", "desk"),
    Hint("Enter", "Edit the selected text", "desk"),
    Hint("Escape", "One step out: gesture, text, tool, selection", "desk"),
    Hint("Tab", "To the next tab stop", "text"),
    Hint("Shift+Enter", "Break the line, not the paragraph", "text"),
    Hint("Ctrl+arrow keys", "By whole words", "text"),
    Hint("Click, Ctrl+click, Shift+click", "Select pages; single ones; a stretch", "run"),
    Hint("Drag pages", "Move pages; the mark says where they go", "run"),
    Hint("Drag a master onto a page", "Apply a master; with Ctrl add it on top", "run"),
)

_PLACES = {"desk": "on the desk", "text": "in a text", "run": "in the Run"}


class Finder(QDialog):
    """Typing narrows the list: what is in the publication, then what can be done.

    Enter takes the row that is chosen. A row whose name holds the words by chance is never
    chosen by itself.
    """

    def __init__(
        self,
        session: Session,
        commands: Commands,
        parent: QWidget | None = None,
        open_style: Callable[[str], object] = lambda _: None,
        open_guide: Callable[[str], object] = lambda _: None,
    ) -> None:
        super().__init__(parent)
        self.session, self.commands = session, commands
        self.open_style, self.open_guide = open_style, open_guide
        self.setWindowTitle("Find")
        self.resize(640, 520)
        column = QVBoxLayout(self)
        title = QLabel("Find, or do")
        title.setObjectName("Title")
        column.addWidget(title)
        self.word = QLineEdit()  # Escape closes at once: there is nothing to take back
        self.word.setAccessibleName("Type what you look for")
        self.word.setPlaceholderText("A page, a word on it, a master, a style; or what to do")
        column.addWidget(self.word)
        self.list = _tree()
        column.addWidget(self.list)
        self.where = QLabel()
        self.where.setObjectName("Quiet")
        self.guide = QPushButton()
        self.guide.setAutoDefault(False)
        self.guide.clicked.connect(self._read)
        foot = QHBoxLayout()
        foot.addWidget(self.where, 1)
        foot.addWidget(self.guide)
        column.addLayout(foot)
        self.editing = session.editing is not None
        commands.refresh()
        self.word.textChanged.connect(self.fill)
        self.list.itemActivated.connect(lambda _: self._run())
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.fill()

    def fill(self) -> None:
        """What the publication has of it, then the commands that can be done now, then others."""
        words = self.word.text().casefold().split()
        self.list.clear()
        for found in search(self.session.publication, self.word.text(), _MOST):
            row = self._row(found.name[:1].upper() + found.name[1:], "", "in the publication")
            row.setData(0, _FOUND, found)
        sure = self.list.topLevelItemCount() > 0
        for place, action, certain in self._ranked(words):
            key = action.shortcut().toString()
            row = self._row(action.text().replace("&", ""), key, place)
            row.setData(0, _COMMAND, action.objectName())
            sure = sure or (certain and self.list.topLevelItemCount() == 1)
            if not action.isEnabled():
                font = QFont(self.font())
                font.setItalic(True)
                row.setFont(0, font)
                set_tone(row, "quiet")
        here = "text" if self.editing else "desk"
        for hint in sorted(HINTS, key=lambda h: h.where != here):
            if _fits(words, f"{hint.keys} {hint.does} {hint.where}") is not None:
                self._row(hint.does, hint.keys, _PLACES[hint.where])
        self._go_to(0 if sure else -1)
        self._tell()

    def _row(self, name: str, key: str, place: str) -> QTreeWidgetItem:
        row = QTreeWidgetItem([name, key, place])
        set_tone(row, "quiet", 2)
        row.setToolTip(0, name)
        self.list.addTopLevelItem(row)
        return row

    def _tell(self) -> None:
        """What Enter does now."""
        row = self.list.currentItem()
        if not self.list.topLevelItemCount():
            said = "Nothing of that name. Try another word: page, picture, number, master."
        elif row is None and not self.word.text().strip():
            said = "Type, or choose with the arrow keys."
        elif row is None:
            said = "Nothing is called exactly that; choose with the arrow keys what is near."
        elif row.data(0, _FOUND) is not None:
            said = "Enter goes there."
        elif (command := row.data(0, _COMMAND)) is None:
            said = "Done by hand, as it says."
        elif self.commands[command].isEnabled():
            said = f"Enter does “{row.text(0)}”."
        else:
            said = "Grey and slanted: not possible just now."
        self.where.setText(said)
        topic = topic_of_command(row.text(0)) if row is not None else ""
        self.guide.setVisible(bool(topic))
        self.guide.setText(f"Guide: {topic}")

    def _go_to(self, number: int) -> None:
        if number < 0:
            self.list.setCurrentIndex(QModelIndex())
            return
        row = self.list.topLevelItem(min(number, self.list.topLevelItemCount() - 1))
        if row is not None:
            self.list.setCurrentItem(row)

    def _ranked(self, words: list[str]) -> list[tuple[str, QAction, bool]]:
        """Menu and action of each command that fits, and whether its name says what was typed:
        what can be done first, then names that begin with the words, then others."""
        found = []
        for order, command in enumerate(self.commands.list):
            action = self.commands[command.id]
            name, menu = action.text().replace("&", ""), command.menu.replace(" > ", " › ")
            fit = _fits(words, name)
            near = fit is None and _fits(words, f"{name} {menu}") is not None
            if fit is None and not near:
                continue
            begins = bool(words) and name.casefold().startswith(words[0])
            rank = (not action.isEnabled(), near, fit != 0, not begins, order)
            found.append((rank, menu, action, fit == 0 and bool(words)))
        first = itemgetter(0)
        # Where the best name can't be done now, what comes next is a near miss.
        best = min((rank[1:] for rank, *_ in found), default=())
        return [(m, a, sure and rank[1:] == best) for rank, m, a, sure in sorted(found, key=first)]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 12,
                Qt.Key.Key_PageUp: -12}.get(key)  # fmt: skip
        if step is not None and self.list.topLevelItemCount():
            row = self.list.currentItem()
            at = self.list.indexOfTopLevelItem(row) if row is not None else -1
            self._go_to(max(0, at + step))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._run()
        else:
            super().keyPressEvent(event)

    def _read(self) -> None:
        """The page of the guide that names the chosen command."""
        row = self.list.currentItem()
        if row is not None:
            self.accept()
            self.open_guide(topic_of_command(row.text(0)))

    def _run(self) -> None:
        row = self.list.currentItem()
        if row is None:
            return
        found, command = row.data(0, _FOUND), row.data(0, _COMMAND)
        if found is not None:
            self.accept()
            if found.kind == "style":
                self.open_style(found.id)
            else:
                go_to(self.session, Destination(found.kind, found.id, found.name))
        elif command is not None and self.commands[command].isEnabled():
            self.accept()
            self.commands[command].trigger()


def _tree() -> QTreeWidget:
    tree = QTreeWidget()
    tree.setAccessibleName("What is found")
    with_tones(tree)
    tree.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # keys go to the word, and from there to the list
    tree.setHeaderHidden(True)
    tree.setColumnCount(3)
    tree.setRootIsDecorated(False)
    tree.setUniformRowHeights(True)
    header = tree.header()
    header.setStretchLastSection(False)
    header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
    header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(2, QHeaderView.ResizeMode.ResizeToContents)
    return tree


def _fits(words: Sequence[str], name: str) -> int | None:
    """0 if every word begins a word of the name, 1 if one that means the same does, else None."""
    told = f" {''.join(c if c.isalnum() else ' ' for c in name.casefold())}"
    worst = 0
    for word in words:
        if f" {word}" in told:
            continue
        if not any(f" {other}" in told for other in alike(word)):
            return None
        worst = 1
    return worst
