"""What a reference refers to, chosen from a list; and a name for a place."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.finds.referring import ReferTarget, targets
from hidden_frame.model.errors import Refusal
from hidden_frame.model.text import Told

Parts = tuple[tuple[str, Told | None], ...]
# What is put in: words of one's own, and what the reference tells, in turn.
FORMS: dict[str, Parts] = {
    "title on page folio": (("“", None), ("", "text"), ("” on page ", None), ("", "folio")),
    "title": (("", "text"),),
    "number": (("", "number"),),
    "number and title": (("", "number and text"),),
    "folio": (("", "folio"),),
    "page folio": (("page ", None), ("", "folio")),
}
_SHOWN: list[tuple[str, object]] = [
    ("“Title” on page 12", "title on page folio"), ("Title", "title"), ("Number", "number"),
    ("Number and title", "number and title"), ("12", "folio"), ("page 12", "page folio"),
]  # fmt: skip
_MOST = 500  # rows that are listed


class ReferDialog(Question):
    """Headings, numbered paragraphs, captions and named places."""

    def __init__(
        self, session: Session, parent: QWidget | None,
        put: Callable[[ReferTarget, Parts], None],
    ) -> None:  # fmt: skip
        super().__init__(parent, "Cross-reference", "Insert")
        self._put = put
        self.targets = targets(session.composition)
        self.word = QLineEdit()
        self.word.setPlaceholderText("Search for")
        self.word.setAccessibleName("Search for")
        self.word.setClearButtonEnabled(True)
        self.form.column.addWidget(self.word)
        self.list = QListWidget()
        self.list.setAccessibleName("What can be referred to")
        self.list.setMinimumSize(420, 240)
        self.form.column.addWidget(self.list)
        self.shape = Choice("Says")
        self.shape.show_choice(_SHOWN, "title on page folio")
        self.form.row("Says", self.shape)
        self.word.textChanged.connect(lambda _: self._fill())
        self.list.itemDoubleClicked.connect(lambda _: self.ok.click())
        self._fill()
        self.word.setFocus()
        self.finish()

    def _fill(self) -> None:
        words = self.word.text().casefold().split()
        self.list.clear()
        for n, target in enumerate(self.targets):
            if all(word in target.words.casefold() for word in words):
                row = QListWidgetItem(f"{target.words}   ·   {target.where}")
                row.setData(Qt.ItemDataRole.UserRole, n)
                self.list.addItem(row)
            if self.list.count() >= _MOST:
                break
        self.list.setCurrentRow(0)

    def answer(self) -> None:
        row = self.list.currentItem()
        if row is None:
            raise Refusal(
                "Nothing matches. You can refer to headings, numbered paragraphs, captions and "
                "named paragraphs."
            )
        target = self.targets[row.data(Qt.ItemDataRole.UserRole)]
        self._put(target, FORMS[str(self.shape.value())])


class PlaceDialog(Question):
    """A name for the caret's paragraph, under which references find it."""

    def __init__(self, parent: QWidget | None, now: str, put: Callable[[str], None]) -> None:
        super().__init__(parent, "Name this paragraph", "Name it")
        self._put = put
        self.form.note("Cross-references list the paragraph at the caret under this name.")
        self.name = TextField("Name")
        self.name.show_text(now)
        self.form.row("Name", self.name)
        self.name.setFocus()
        self.finish()

    def answer(self) -> None:
        name = self.name.text().strip()
        if not name or len(name) > 100:
            raise self.name.refusal("A name has 1 to 100 characters; type one.")
        self._put(name)
