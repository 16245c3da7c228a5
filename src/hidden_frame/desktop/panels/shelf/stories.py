"""Stories on the Shelf: name, words, pages and state of each, and what can be done with it."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QGridLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.facts import page_name
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.stories import rename_story
from hidden_frame.interact.words.storied import Help, offers, state
from hidden_frame.model.lookup import find_story
from hidden_frame.model.number_format import grouped
from hidden_frame.model.plural import plural

_ID = Qt.ItemDataRole.UserRole


class StoryDeeds(Protocol):
    """What the list can have done with a story."""

    def go_to(self, story_id: str, end: bool = False) -> None: ...

    def help(self, story_id: str, kind: Help) -> None: ...

    def set_grows(self, story_id: str, grows: bool) -> None: ...

    def delete(self, story_id: str) -> None: ...

    def place_waiting(self, story_id: str) -> None: ...

    def anchor_waiting(self, story_id: str) -> None: ...

    def bring_in(self) -> None: ...

    def write_out(self, story_id: str = "") -> None: ...


class StoryList(QWidget):
    """A double click goes to where a story begins; below stands how the chosen one is."""

    def __init__(self, session: Session, actions: StoryDeeds) -> None:
        super().__init__()
        self.session, self.doing = session, actions
        self._shown: object = None
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        column.setSpacing(6)
        title = QLabel("STORIES")
        title.setObjectName("Heading")
        column.addWidget(title)
        self.list = QListWidget()
        self.list.setAccessibleName("Stories")
        self.list.setEditTriggers(QAbstractItemView.EditTrigger.EditKeyPressed)
        with_tones(self.list)
        column.addWidget(self.list, 1)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setObjectName("Quiet")
        column.addWidget(self.told)
        self.helps = QVBoxLayout()
        column.addLayout(self.helps)
        self.tray = QPushButton()
        self.tray.setToolTip("On the page where the story mentions it, with text running around it")
        column.addWidget(self.tray)
        self.anchor = QPushButton()
        self.anchor.setToolTip("Each moves with the paragraph it was placed at")
        column.addWidget(self.anchor)
        self.grows = QCheckBox("Section grows with it")
        self.grows.setToolTip("Pages are added and removed at the section’s end as the text needs")
        column.addWidget(self.grows)
        grid = QGridLayout()
        grid.setSpacing(6)
        self.go, self.bring = QPushButton("Go to"), QPushButton("Import…")
        self.rename, self.out = QPushButton("Rename"), QPushButton("Export…")
        self.delete = QPushButton("Delete")
        self.bring.setToolTip("Imports a manuscript into the section of the page on the desk")
        for n, button in enumerate((self.go, self.bring, self.rename, self.out, self.delete)):
            grid.addWidget(button, n // 2, n % 2)
        column.addLayout(grid)
        self._connect()

    def _connect(self) -> None:
        actions = self.doing
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.list.itemDoubleClicked.connect(lambda row: actions.go_to(row.data(_ID)))
        self.list.itemChanged.connect(self._renamed)
        self.go.clicked.connect(lambda: actions.go_to(self.chosen()))
        self.bring.clicked.connect(lambda: actions.bring_in())
        self.out.clicked.connect(lambda: actions.write_out(self.chosen()))
        self.delete.clicked.connect(lambda: actions.delete(self.chosen()))
        self.rename.clicked.connect(self._rename)
        self.tray.clicked.connect(lambda: actions.place_waiting(self.chosen()))
        self.anchor.clicked.connect(lambda: actions.anchor_waiting(self.chosen()))
        self.grows.clicked.connect(lambda on: actions.set_grows(self.chosen(), on))
        self._later = QTimer(self)  # counting the words of a long story takes longer than a key
        self._later.setSingleShot(True)
        self._later.setInterval(200)
        self._later.timeout.connect(self.refresh)
        self.session.changed.connect(self._soon)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def _soon(self) -> None:
        if self.isVisible() and not self._later.isActive():
            self._later.start()

    def chosen(self) -> str:
        """The id of the chosen story; "" without one."""
        row = self.list.currentItem()
        return str(row.data(_ID)) if row is not None else ""

    def refresh(self) -> None:
        """Takes up what changed; nothing while it is not seen or a gesture is under way."""
        publication = self.session.publication
        if not self.isVisible() or self.session.draft is not None or publication is self._shown:
            return
        self._shown = publication
        here = self.chosen()
        self.list.blockSignals(True)
        self.list.clear()
        for story in publication.stories:
            now = state(self.session.composition, story.id)
            row = QListWidgetItem(story.name)
            row.setData(_ID, story.id)
            row.setFlags(row.flags() | Qt.ItemFlag.ItemIsEditable)
            row.setToolTip(now.sentence)
            if not now.fits:
                set_tone(row, "warning")
            self.list.addItem(row)
            if story.id == here:
                self.list.setCurrentItem(row)
        if self.list.currentItem() is None and self.list.count():
            self.list.setCurrentRow(0)
        self.list.blockSignals(False)
        self._tell()

    def _tell(self) -> None:
        """How the chosen story stands, and what helps it."""
        story_id = self.chosen()
        for button in (self.go, self.rename, self.out, self.delete, self.grows):
            button.setEnabled(bool(story_id))
        while self.helps.count():
            old = self.helps.takeAt(0)
            widget = old.widget() if old is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        if not story_id:
            self.tray.hide()
            self.anchor.hide()
            self.told.setText(
                "No story yet. Import a manuscript, or link one text frame to the next by the "
                "mark at its foot."
            )
            return
        composition = self.session.composition
        story, now = find_story(self.session.publication, story_id), state(composition, story_id)
        where = ""
        if now.first:
            ends = [page_name(composition.facts[page]) for page in (now.first, now.last)]
            both = list(dict.fromkeys(ends))
            where = plural(
                len(both), " · page {pages}", " · pages {pages}", pages=" to ".join(both)
            )
        count = plural(now.frames, "{n} frame", "{n} frames")
        self.told.setText(f"{grouped(now.words)} words · {count}{where}\n{now.sentence}")
        many = len(story.waiting)
        self.tray.setVisible(many > 0)
        self.tray.setText(plural(many, "Place the last picture", "Place the next of {n} pictures"))
        self.anchor.setVisible(many > 0)
        self.anchor.setText(
            "Anchor it where it stood" if many == 1 else "Anchor all where they stood"
        )
        self.grows.setChecked(story.grows)
        self.grows.setEnabled(bool(story.sections))
        for offer in offers(composition, story_id):
            button = QPushButton(offer.title)
            button.setToolTip(offer.told)
            button.clicked.connect(lambda _=False, kind=offer.kind: self.doing.help(story_id, kind))
            self.helps.addWidget(button)

    def _rename(self) -> None:
        row = self.list.currentItem()
        if row is not None:
            self.list.editItem(row)

    def _renamed(self, row: QListWidgetItem) -> None:
        story_id, name = str(row.data(_ID)), row.text()
        self.session.edit("rename a story", lambda p: rename_story(p, story_id, name))
        self._shown = None
        self.refresh()
