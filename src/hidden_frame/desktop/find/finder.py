"""The dialog of Find: typing narrows a list, and Enter takes what is chosen in it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtGui import QFont, QKeyEvent
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

from hidden_frame.desktop.dialogs.goto import go_to
from hidden_frame.desktop.find.entries import IN_PUBLICATION, entries, places_of
from hidden_frame.desktop.find.places import Fields
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.needs import need_of
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.topics import topic_of_command
from hidden_frame.interact.finds.entry import FindEntry
from hidden_frame.interact.finds.goto import Destination, places
from hidden_frame.interact.finds.rank import Ranked, Ranking
from hidden_frame.interact.finds.search import words_on_pages

_ENTRY = Qt.ItemDataRole.UserRole
_MOST = 40  # rows
_PAGES = 20  # of them, pages on which a word stands


class Finder(QDialog):
    """What was typed is looked for among commands, fields, pages of the guide, things of the
    publication, and the words on its pages.

    Enter takes the row that is chosen.  A command that is only near is never chosen by itself.
    """

    def __init__(
        self,
        session: Session,
        commands: Commands,
        fields: Fields,
        parent: QWidget | None = None,
        open_style: Callable[[str], object] = lambda _: None,
        open_guide: Callable[[str], object] = lambda _: None,
    ) -> None:
        super().__init__(parent)
        self.session, self.commands, self.fields = session, commands, fields
        self.open_style, self.open_guide = open_style, open_guide
        self.setWindowTitle("Find")
        self.resize(640, 520)
        column = QVBoxLayout(self)
        title = QLabel("Find or do")
        title.setObjectName("Title")
        column.addWidget(title)
        self.word = QLineEdit()  # Escape closes at once: there is nothing to take back
        self.word.setAccessibleName("Type what you are looking for")
        self.word.setPlaceholderText("A page, a word, a master, a style, or a command")
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
        commands.refresh()
        self.ranking = Ranking(entries(commands, fields, session.publication))
        self.word.textChanged.connect(self.fill)
        self.list.itemActivated.connect(lambda _: self._run())
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.fill()

    def fill(self) -> None:
        """The page of a folio, then what is likely meant, words on pages, and what is near."""
        typed = self.word.text()
        self.list.clear()
        ranked = self.ranking.ask(typed, _MOST)
        rows = [(r.entry, _may(r)) for r in ranked]
        likely = sum(r.near or r.sure for r in ranked)
        folios = [(_page(p), True) for p in self._folios(typed)]
        pages = [(_page(h), True) for h in words_on_pages(self.session.publication, typed, _PAGES)]
        rows = [*folios, *rows[:likely], *pages, *rows[likely:]]
        if not typed.strip():
            rows = [(e, False) for e in self.ranking.entries if e.kind in ("command", "hint")]
        for entry, _ in rows:
            self._entry(entry)
        self._go_to(0 if rows and rows[0][1] else -1)
        self._tell()

    def _folios(self, typed: str) -> list[Destination]:
        """The page of this folio or position; names are found with all others."""
        found = places(self.session.publication, typed)
        return [p for p in found if p.kind == "page" and not p.name.startswith("section ")]

    def _entry(self, entry: FindEntry) -> None:
        key = entry.id if entry.kind == "hint" else ""
        if entry.kind == "command":
            key = self.commands[entry.id].shortcut().toString()
        row = self._row(entry.name, key, entry.place)
        row.setData(0, _ENTRY, entry)
        if self._missing(entry):
            font = QFont(self.font())
            font.setItalic(True)
            row.setFont(0, font)
            set_tone(row, "quiet")

    def _missing(self, entry: FindEntry) -> str:
        """Why it can't be done now; "" if it can."""
        if entry.kind == "field":
            return self.fields.missing(places_of(entry))
        if entry.kind == "command" and not self.commands[entry.id].isEnabled():
            return need_of(entry.id) or "Not possible at the moment."
        return ""

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
            said = "Nothing found. Try another word: page, picture, number, master."
        elif row is None and not self.word.text().strip():
            said = "Type, or choose with the arrow keys."
        elif row is None:
            said = "No exact match. Choose a near one with the arrow keys."
        else:
            said = self._told(row.data(0, _ENTRY))
        self.where.setText(said)
        entry = row.data(0, _ENTRY) if row is not None else None
        command = entry is not None and entry.kind == "command"
        topic = topic_of_command(entry.name) if command else ""
        self.guide.setVisible(bool(topic))
        self.guide.setText(f"Guide: {topic}")

    def _go_to(self, number: int) -> None:
        if number < 0:
            self.list.setCurrentIndex(QModelIndex())
            return
        row = self.list.topLevelItem(min(number, self.list.topLevelItemCount() - 1))
        if row is not None:
            self.list.setCurrentItem(row)

    def _told(self, entry: FindEntry) -> str:
        """What Enter does with it."""
        if missing := self._missing(entry):
            return f"Not now. {missing}"
        return {
            "command": f"Enter does “{entry.name}”.",
            "field": "Enter opens it there.",
            "guide": "Enter opens the guide there.",
            "thing": "Enter goes there.",
            "hint": "Done by hand, as described.",
        }[entry.kind]

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
        entry = row.data(0, _ENTRY) if row is not None else None
        if entry is None or entry.kind == "hint" or self._missing(entry):
            return
        self.accept()
        if entry.kind == "command":
            self.commands[entry.id].trigger()
        elif entry.kind == "field":
            self.fields.open(places_of(entry), entry.name)
        elif entry.kind == "guide":
            self.open_guide(entry.id)
        else:
            kind, _, found = entry.id.partition(" ")
            if kind == "style":
                self.open_style(found)
            else:
                go_to(self.session, Destination("master" if kind == "master" else "page", found,
                                                entry.name))  # fmt: skip


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


def _may(ranked: Ranked) -> bool:
    """Whether Enter takes it without its being chosen: what only goes somewhere or asks first, by
    any word for it; what does something at once, by its name alone."""
    if ranked.entry.kind != "command":
        return ranked.near or ranked.sure
    return ranked.named or (ranked.sure and ranked.entry.name.endswith("…"))


def _page(found: Destination) -> FindEntry:
    """A page that was found by its number, or by a word on it."""
    name = found.name[:1].upper() + found.name[1:]
    return FindEntry("thing", f"page {found.id}", name, IN_PUBLICATION)
