"""Index marks put in, and the panel of all terms."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QInputDialog,
    QLabel,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.text.index import change_marks, rename_term
from hidden_frame.interact.finds.indexing import places_of, terms
from hidden_frame.model.errors import Refusal
from hidden_frame.model.plural import plural
from hidden_frame.model.text import IndexMark, TextPlace

_REACH = (("this page", "here"), ("begins here", "begins"), ("ends here", "ends"))
_ROLE = Qt.ItemDataRole.UserRole


class MarkDialog(Question):
    """A mark at the caret, or behind every place where the words stand."""

    def __init__(
        self, parent: QWidget | None, words: str, known: list[str],
        put: Callable[[IndexMark, str], None],
    ) -> None:  # fmt: skip
        super().__init__(parent, "Mark for the index", "Mark")
        self._put, self._words = put, words
        self.term, self.sub = TextField("Term"), TextField("Sub-term")
        self.see, self.also = TextField("See"), TextField("See also")
        self.sub.setPlaceholderText("none")
        self.see.setPlaceholderText("another term, instead of pages")
        self.also.setPlaceholderText("another term, besides")
        self.term.show_text(words)
        self.reach = Choice("Pages")
        self.reach.show_choice(_REACH, "here")
        self.everywhere = QCheckBox(f"Wherever “{words}” occurs" if words else "Wherever it occurs")
        self.everywhere.setEnabled(bool(words))
        for label, field in (("Term", self.term), ("Sub-term", self.sub), ("Pages", self.reach),
                             ("See", self.see), ("See also", self.also)):  # fmt: skip
            self.form.row(label, field)
        self.form.row("", self.everywhere)
        if known:
            self.form.note(f"There are {len(known)} terms: {', '.join(known[:6])} …")
        self.term.setFocus()
        self.finish()

    def mark(self) -> IndexMark:
        """What is typed.  Raises `Refusal` where that is no mark."""
        term = self.term.text().strip()
        if not term:
            raise self.term.refusal("A mark needs a term; type the word readers will look up.")
        fields = (self.term, self.sub, self.see, self.also)
        if any(len(field.text()) > 200 for field in fields):
            raise Refusal("A term has at most 200 characters; shorten it.")
        return IndexMark(
            term, self.sub.text().strip(), self.see.text().strip(), self.also.text().strip(),
            self.reach.value(),  # type: ignore[arg-type]
        )  # fmt: skip

    def answer(self) -> None:
        self._put(self.mark(), self._words if self.everywhere.isChecked() else "")


class IndexPanel(QDialog):
    """All terms with their pages; goes to their marks, renames and takes them out."""

    def __init__(
        self, session: Session, parent: QWidget | None,
        go: Callable[[str, TextPlace], bool], put: Callable[[], None],
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.session, self._go = session, go
        self.setWindowTitle("Index: its terms")
        self.setModal(False)
        self.resize(400, 520)
        column = QVBoxLayout(self)
        self.word = QLineEdit()
        self.word.setPlaceholderText("Find a term")
        self.word.setAccessibleName("Find a term")
        self.word.setClearButtonEnabled(True)
        column.addWidget(self.word)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Terms")
        self.list.setHeaderLabels(["Term", "Pages"])
        self.list.setColumnWidth(0, 220)
        self.list.setRootIsDecorated(True)
        column.addWidget(self.list, 1)
        self.told = QLabel()
        self.told.setObjectName("Quiet")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        grid = QGridLayout()
        self.next, self.rename = QPushButton("Go to the next mark"), QPushButton("Rename…")
        self.out, self.page = QPushButton("Delete"), QPushButton("Index on this page")
        self.page.setToolTip("A frame that lists all terms and stays up to date")
        for n, button in enumerate((self.next, self.rename, self.out, self.page)):
            button.setAutoDefault(False)
            grid.addWidget(button, n // 2, n % 2)
        column.addLayout(grid)
        self._at: dict[tuple[str, str], int] = {}
        self._shown: object = None
        self.word.textChanged.connect(lambda _: self.refresh(True))
        self.list.currentItemChanged.connect(lambda *_: self._enable())
        self.list.itemDoubleClicked.connect(lambda *_: self.go_on())
        self.next.clicked.connect(self.go_on)
        self.rename.clicked.connect(self._rename)
        self.out.clicked.connect(self.take_out)
        self.page.clicked.connect(put)
        session.changed.connect(lambda: self.refresh())
        self.refresh(True)

    def chosen(self) -> tuple[str, str] | None:
        """The term and sub-term of the chosen row."""
        row = self.list.currentItem()
        return None if row is None else row.data(0, _ROLE)

    def refresh(self, anew: bool = False) -> None:
        """Takes up what changed, while it is seen."""
        publication = self.session.publication
        if not anew and (not self.isVisible() or publication is self._shown or self.session.busy):
            return
        self._shown = publication
        before, wanted = self.chosen(), self.word.text().casefold()
        self.list.clear()
        found = terms(self.session.composition)
        parents: dict[str, QTreeWidgetItem] = {}
        for each in found:
            if wanted and wanted not in f"{each.term} {each.sub}".casefold():
                continue
            row = QTreeWidgetItem([each.sub or each.term, each.told])
            row.setData(0, _ROLE, (each.term, each.sub))
            over = parents.get(each.term) if each.sub else None
            if over is not None:
                over.addChild(row)
            else:
                self.list.addTopLevelItem(row)
                parents.setdefault(each.term, row)
            if (each.term, each.sub) == before:
                self.list.setCurrentItem(row)
        self.list.expandAll()
        count = len({t.term for t in found})
        self.told.setText(
            plural(count, "{n} term", "{n} terms") if count else
            "No terms yet. While editing text, select a word and choose Text > Mark for the index…"
        )  # fmt: skip
        self._enable()

    def _enable(self) -> None:
        for button in (self.next, self.rename, self.out):
            button.setEnabled(self.chosen() is not None)

    def go_on(self) -> None:
        """To the next mark of the chosen term."""
        chosen = self.chosen()
        if chosen is None:
            return
        places = places_of(self.session.composition, *chosen)
        if not places:
            self.session.noticed.emit("Its marks are in frames on pages; look for its words there.")
            return
        at = (self._at.get(chosen, -1) + 1) % len(places)
        self._at[chosen] = at
        if self._go(places[at].story, places[at].place):
            self.told.setText(f"“{chosen[1] or chosen[0]}”, mark {at + 1} of {len(places)}")
        else:
            self.session.noticed.emit("This mark is on no page; give its story more room.")

    def _rename(self) -> None:
        chosen = self.chosen()
        if chosen is None:
            return
        name, given = QInputDialog.getText(
            self, "Rename a term", "Term", text=chosen[1] or chosen[0]
        )
        if given and name.strip():
            self.rename_to(name.strip()[:200])

    def rename_to(self, name: str) -> None:
        """The chosen term, or sub-term, under another name; two of one name are one."""
        chosen = self.chosen()
        if chosen is None:
            return
        self.session.edit("rename a term", lambda p: rename_term(p, *chosen, name))
        self.refresh(True)

    def take_out(self) -> None:
        """All marks of the chosen term; the notice takes it back."""
        chosen = self.chosen()
        if chosen is None:
            return
        term, sub = chosen
        count = len(places_of(self.session.composition, term, sub))

        def new(mark: IndexMark) -> IndexMark | None:
            gone = mark.term == term and (not sub or mark.sub == sub)
            return None if gone else mark

        if self.session.edit("take a term out", lambda p: change_marks(p, new)):
            marks = plural(count, "{n} mark", "{n} marks")
            self.session.undoable.emit(f"“{sub or term}” was deleted from the index, with {marks}.")
        self.refresh(True)
