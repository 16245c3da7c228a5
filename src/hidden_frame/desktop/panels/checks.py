"""The checks: what is doubtful, each with a jump and, where possible, a way out."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QToolButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.checks.finding import Finding, KnownFindings, Way
from hidden_frame.checks.findings import findings, kept_checks
from hidden_frame.checks.kinds import OrderCheck
from hidden_frame.desktop.look.icons import dress
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.topics import INTO_PRINT, topic_of_kind
from hidden_frame.desktop.state.watch import ContentWatch
from hidden_frame.model.lookup import all_pages, masters_by_id
from hidden_frame.model.number_format import grouped

_ROW = 42  # pixels: two lines of a sentence
_ROWS = 300
_FEW = 300  # pages that are looked at in no time


class ChecksPanel(QFrame):
    """A list under the desk; `counted` says how many findings there are."""

    counted = Signal(int, bool)  # how many findings there are, and whether these are all
    guide_wanted = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.watch = ContentWatch(session)
        self.found: list[Finding] = []
        self._shown: tuple[object, object] = (None, None)
        self._listed = False  # whether there are rows for what was found
        self._checked: object = None  # the publication that is being looked at
        self._left: list[OrderCheck] = []
        self.setObjectName("TextStrip")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 6, 12, 8)
        column.setSpacing(4)
        row = QHBoxLayout()
        self.title = QLabel()
        self.title.setObjectName("Heading")
        row.addWidget(self.title)
        row.addStretch(1)
        self.guide = QToolButton()
        self.guide.setToolTip("Open the guide’s page on the selected row")
        self.guide.clicked.connect(lambda: self.guide_wanted.emit(self._topic()))
        row.addWidget(self.guide)
        close = QToolButton()
        dress(close, "ph.x", 14)
        close.setToolTip("Close the checks")
        close.setAccessibleName("Close the checks")
        close.clicked.connect(self.hide)
        row.addWidget(close)
        column.addLayout(row)
        self.list = _list()
        self.list.itemClicked.connect(lambda row, _: self._go(row))
        self.list.itemActivated.connect(lambda row, _: self._go(row))
        self.list.currentItemChanged.connect(lambda *_: self._tell_topic())
        column.addWidget(self.list)
        self._tell_topic()
        # They are looked for once the hand rests.
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(200)
        self._later.timeout.connect(self._look)
        session.changed.connect(self._soon)
        self.watch.found.connect(self.refresh)
        self._later.start()
        self.hide()

    def _soon(self) -> None:
        if not self.session.busy:
            self._later.start()

    def _look(self) -> None:
        """One check at a time, so that the desk stays quick; then all are known."""
        now = self.session.publication
        if self._checked is not now:
            self._checked, self._left = now, list(kept_checks())
        if self._left and not self.session.busy:
            self._left.pop(0)(now)
            QTimer.singleShot(0, self, self._look)
        else:
            self.refresh()

    def refresh(self) -> None:
        """Lists what is known of the order, and of the contents as last looked at."""
        if self.session.busy:
            return
        order = findings(self.session.publication)
        if self._shown == (id(order), id(self.watch.findings)):
            return
        self._shown = (id(order), id(self.watch.findings))
        every = [*self.watch.findings, *order]
        self.found = [*(f for f in every if not f.quiet), *(f for f in every if f.quiet)]
        count = sum(not f.quiet for f in every)
        few = len(all_pages(self.session.publication)) <= _FEW
        self.counted.emit(count, self.watch.done or few)
        self.title.setText(
            f"CHECKS: {grouped(count)} TO CHECK" if count else "CHECKS: NO PROBLEMS FOUND"
        )
        self._listed = False
        if self.isVisible():
            self._fill()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not self._listed:
            self._fill()

    def _fill(self) -> None:
        """Rows for what was found, as many as anybody reads: each has buttons of its own."""
        self._listed = True
        self.list.clear()
        for number, finding in enumerate(self.found[:_ROWS]):
            self._add(number, finding)
        more = len(self.found) - _ROWS
        if more > 0:
            row = QTreeWidgetItem([f"and {grouped(more)} more, shown when some of these are gone"])
            row.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addTopLevelItem(row)

    def _topic(self) -> str:
        row = self.list.currentItem()
        number = row.data(0, Qt.ItemDataRole.UserRole) if row is not None else None
        known = number is not None and number < len(self.found)
        return topic_of_kind(self.found[number].kind) if known else INTO_PRINT

    def _tell_topic(self) -> None:
        self.guide.setText(f"Guide: {self._topic()}")

    def findings_now(self, seconds: float) -> KnownFindings:
        """What is found in so many seconds, and whether that is everything."""
        complete = self.watch.finish(seconds)
        self.refresh()
        return KnownFindings(self.found, complete)

    def _add(self, number: int, finding: Finding) -> None:
        row = QTreeWidgetItem([finding.sentence, ""])
        row.setData(0, Qt.ItemDataRole.UserRole, number)
        row.setToolTip(0, finding.sentence)
        if finding.quiet:
            row.setForeground(0, self.palette().placeholderText())
        row.setSizeHint(0, QSize(0, _ROW))
        self.list.addTopLevelItem(row)
        buttons = [_button(way.offer, partial(self._fix, way)) for way in finding.ways[:2]]
        if finding.asks:
            buttons.append(_button("Choose another…", partial(self._replace, finding.asks)))
        if buttons:
            row_buttons = QWidget()
            line = QHBoxLayout(row_buttons)
            line.setContentsMargins(0, 0, 0, 0)
            line.setSpacing(6)
            line.addStretch(1)
            for button in buttons:
                line.addWidget(button)
            row.setSizeHint(1, QSize(row_buttons.sizeHint().width() + 12, _ROW))
            self.list.setItemWidget(row, 1, row_buttons)

    def _go(self, row: QTreeWidgetItem) -> None:
        """Shows the page that a finding is about, where pages are looked at now."""
        number = row.data(0, Qt.ItemDataRole.UserRole)
        if number is None:
            return
        finding, session = self.found[number], self.session
        if finding.page_id is None:
            return
        if finding.page_id in masters_by_id(session.publication):
            session.show_master(finding.page_id)
        elif session.pane == "flatplan":
            session.select_pages(finding.pages or (finding.page_id,))
            return
        else:
            session.show_page(finding.page_id)
        if finding.item_id is not None:
            face = next((f for f in session.faces() if f.holder_id == finding.page_id), None)
            session.select_items(face, (finding.item_id,))

    def _fix(self, way: Way) -> None:
        self.session.edit(way.offer[:1].lower() + way.offer[1:], way.fix)

    def _replace(self, family: str) -> None:
        from hidden_frame.desktop.dialogs.fonts import ReplaceFontDialog

        ReplaceFontDialog(self.session, family, self.window()).exec()


def _list() -> QTreeWidget:
    rows = QTreeWidget()
    rows.setAccessibleName("Checks")
    rows.setColumnCount(2)
    rows.setHeaderHidden(True)
    rows.setRootIsDecorated(False)
    rows.setFixedHeight(_ROW * 4)
    rows.setWordWrap(True)  # a sentence may take two lines
    header = rows.header()
    header.setStretchLastSection(False)
    header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
    header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
    return rows


def _button(text: str, press: Callable[[], object]) -> QPushButton:
    button = QPushButton(text)
    button.clicked.connect(lambda _=False: press())
    return button
