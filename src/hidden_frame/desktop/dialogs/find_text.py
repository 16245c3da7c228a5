"""Find and replace: words in the story, or everywhere, masters too; every hit with its page."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.base import put_over_properties
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look.tones import with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.desktop.views.desk.hits import show_hit
from hidden_frame.edit.text.find import Query, TextRange
from hidden_frame.edit.text.steps import length
from hidden_frame.interact.finds.finding import (
    EVERYTHING,
    MOST,
    SearchScope,
    TextSpot,
    WordFound,
    found,
    page_in_words,
    replaced_all,
    replaced_one,
    spot_of,
    texts,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import grouped
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication

_EVERYTHING = ("the whole publication", "everything")


class FindTextDialog(QDialog):
    """Stays open beside the desk; a click on a hit selects it there."""

    def __init__(self, session: Session, desk: Desk, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.desk = session, desk
        self.found: list[WordFound] = []
        self._seen: WordFound | None = None  # the hit that the desk shows
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Find and replace")
        self.resize(430, 560)
        self.words, self.by = QLineEdit(), QLineEdit()
        self.words.setAccessibleName("Find")
        self.by.setAccessibleName("Replace with")
        self.case, self.whole = QCheckBox("Match case"), QCheckBox("Whole words")
        self.regular = QCheckBox("Regular expression")
        self.style_choice, self.scope = Choice("In style"), Choice("Look in")
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Hits")
        self.list.setRootIsDecorated(False)
        self.list.setHeaderLabels(["Page", "Words"])
        self.list.setColumnWidth(0, 70)
        with_tones(self.list)
        self.next = QPushButton("Next")
        self.one, self.all = QPushButton("Replace"), QPushButton("Replace all")
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column, grid = QVBoxLayout(self), QGridLayout()
        for n, (label, field) in enumerate((("Find", self.words), ("Replace with", self.by))):
            grid.addWidget(QLabel(label), n, 0)
            grid.addWidget(field, n, 1)
        styles = [(s.name, s.id) for s in self.session.publication.paragraph_styles]
        self.style_choice.show_choice([("any style", ""), *styles], "")
        self._take_up()
        grid.addWidget(QLabel("Look in"), 2, 0)
        grid.addWidget(self.scope, 2, 1)
        grid.addWidget(QLabel("In style"), 3, 0)
        grid.addWidget(self.style_choice, 3, 1)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        row = QHBoxLayout()
        for box in (self.case, self.whole, self.regular):
            row.addWidget(box)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(self.told)
        column.addWidget(self.list, 1)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        for button in (self.next, self.one, self.all):
            button.setAutoDefault(False)
            buttons.addWidget(button)
        self.next.setDefault(True)
        column.addLayout(buttons)

    def _connect(self) -> None:
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(120)
        self._later.timeout.connect(self.look)
        self.words.textChanged.connect(lambda _: self._later.start())
        for box in (self.case, self.whole, self.regular):
            box.toggled.connect(lambda _: self.look())
        self.style_choice.committed.connect(lambda _: self.look())
        self.scope.committed.connect(lambda _: self.look())
        self.list.currentItemChanged.connect(lambda *_: self._show())
        self.next.clicked.connect(self.go_on)
        self.one.clicked.connect(self.replace)
        self.all.clicked.connect(self.replace_all)
        self.session.changed.connect(self._later.start)
        self._enable()

    def showEvent(self, event: QShowEvent) -> None:
        """Over Properties, so that the hits are seen."""
        super().showEvent(event)
        if not event.spontaneous():
            put_over_properties(self)

    def query(self) -> Query:
        return Query(
            self.words.text(),
            self.case.isChecked(),
            self.whole.isChecked(),
            self.regular.isChecked(),
            str(self.style_choice.value() or ""),
        )

    def _take_up(self) -> None:
        """What is written in, and the words that are selected there: those are looked in."""
        session, writing = self.session, self.desk.text
        told, editing = writing.told(), session.editing
        self._spot: TextSpot | None = None
        options: list[tuple[str, object]] = [_EVERYTHING]
        if told is not None:
            self._spot = TextSpot(told.story.id)
            options.append(("this story", "text"))
        elif editing is not None:
            self._spot = spot_of(session.publication, editing.holder_id, editing.item_id)
            if self._spot is not None:
                options.append(("this frame", "text"))
        start, end = writing.selection if self._spot is not None else ((0, 0), (0, 0))
        self._start, self._tail = start, (0, 0)
        wide = start[0] != end[0]
        if start != end:
            options.append(("the selected words", "selection"))
            text = writing.text
            self._tail = len(text) - end[0], length(text[end[0]]) - end[1]
        self.scope.show_choice(options, "selection" if wide else "everything")

    def _where(self) -> SearchScope:
        chosen = self.scope.value()
        if chosen == "everything" or self._spot is None:
            return EVERYTHING
        return SearchScope(self._spot, self._stretch() if chosen == "selection" else None)

    def _stretch(self) -> TextRange | None:
        """What was selected.  Its end is counted from the text's end, so that it holds as what
        stands in it is replaced."""
        _, text = next(texts(self.session.publication, self._spot), (None, ()))
        paragraph, behind = len(text) - self._tail[0], self._tail[1]
        if not 0 <= paragraph < len(text):
            return None
        return TextRange(self._start, (paragraph, max(length(text[paragraph]) - behind, 0)))

    def look(self) -> None:
        """Lists the hits as things are now."""
        self._later.stop()
        self.found, sentence = [], ""
        try:
            if self.words.text():
                composition = self.session.composition
                self.found = found(composition, self.query(), self._where())
        except Refusal as refusal:
            sentence = str(refusal)
        count = len(self.found)
        if not sentence and self.words.text():
            some = "The first " if count >= MOST else ""
            sentence = some + plural(count, "{n} hit", "{n} hits") if count else "Nothing found."
        self.told.setText(sentence)
        at = self._at()
        self.list.blockSignals(True)
        self.list.clear()
        for each in self.found:
            where = page_in_words(self.session.composition, each.page_id)
            line = f"{each.before}[{each.words}]{each.after}".replace("\u2028", " ")
            self.list.addTopLevelItem(QTreeWidgetItem([where, line]))
        if self.found:
            self._choose(max(min(at, count - 1), 0))
        self.list.blockSignals(False)
        self._enable()

    def _enable(self) -> None:
        for button in (self.next, self.one, self.all):
            button.setEnabled(bool(self.found))

    def _at(self) -> int:
        """The row of the chosen hit; -1 without one."""
        row = self.list.currentItem()
        return self.list.indexOfTopLevelItem(row) if row is not None else -1

    def _choose(self, number: int) -> None:
        row = self.list.topLevelItem(number)
        if row is not None:
            self.list.setCurrentItem(row)

    def _chosen(self) -> WordFound | None:
        at = self._at()
        return self.found[at] if 0 <= at < len(self.found) else None

    def go_on(self) -> None:
        """The next hit, shown on the desk; after the last one the first again."""
        shown = self._chosen()
        self.look()
        if not self.found:
            return
        if shown is None or shown != self._seen:  # the first one has not been shown yet
            self._show()
            return
        self._choose((self._at() + 1) % len(self.found))

    def _show(self) -> None:
        """The chosen hit on the desk, selected as words where one may write there."""
        self._seen = one = self._chosen()
        if one is not None:
            show_hit(self.desk, one.spot, one.hit)

    def replace(self) -> None:
        """The chosen hit, and on to the next one."""
        one = self._chosen()
        if one is None:
            return
        query, by = self.query(), self.by.text()
        try:
            done = self.session.edit("replace", lambda p: replaced_one(p, one, query, by))
        except Refusal as refusal:
            self.told.setText(str(refusal))
            return
        if done:
            self.look()
            self._show()

    def replace_all(self) -> None:
        """Every hit, in one step."""
        query, by, where = self.query(), self.by.text(), self._where()
        times: list[int] = []

        def change(publication: Publication) -> Publication:
            result = replaced_all(publication, query, by, where)
            times.append(result.times)
            return result.publication

        self.session.edit_text(None)
        if self.session.edit("replace all", change) and times:
            self.look()
            count = times[-1]
            self.told.setText(f"{grouped(count)} replaced; Undo reverses all of it.")
