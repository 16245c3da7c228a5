"""The checks: what is doubtful, each with a jump and, where possible, a fix."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, QTimer, Signal
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
)

from hidden_frame.checks.order import Finding, findings
from hidden_frame.desktop.icons import dress
from hidden_frame.desktop.session import Session
from hidden_frame.model.errors import Refusal


class ChecksPanel(QFrame):
    """A list under the desk; `counted` says how many findings there are."""

    counted = Signal(int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.found: list[Finding] = []
        self.setObjectName("TextStrip")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 6, 12, 8)
        column.setSpacing(4)
        row = QHBoxLayout()
        self.title = QLabel()
        self.title.setObjectName("Heading")
        row.addWidget(self.title)
        row.addStretch(1)
        close = QToolButton()
        dress(close, "ph.x", 14)
        close.setToolTip("Close the checks")
        close.setAccessibleName("Close the checks")
        close.clicked.connect(self.hide)
        row.addWidget(close)
        column.addLayout(row)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Checks")
        self.list.setColumnCount(2)
        self.list.setHeaderHidden(True)
        self.list.setRootIsDecorated(False)
        self.list.setFixedHeight(140)
        header = self.list.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.list.itemClicked.connect(lambda row, _: self._go(row))
        self.list.itemActivated.connect(lambda row, _: self._go(row))
        column.addWidget(self.list)
        # They are looked for once the hand rests.
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(200)
        self._later.timeout.connect(self.refresh)
        session.changed.connect(self._soon)
        self._later.start()
        self.hide()

    def _soon(self) -> None:
        if not self.session.busy:
            self._later.start()

    def refresh(self) -> None:
        """Looks again, and lists what is found."""
        if self.session.busy:
            return
        found = findings(self.session.publication)
        count = len(found)
        self.counted.emit(count)
        if found is self.found:
            return
        self.found = found
        self.title.setText(f"CHECKS: {count} DOUBTFUL" if count else "CHECKS: NOTHING DOUBTFUL")
        self.list.clear()
        for number, finding in enumerate(found):
            row = QTreeWidgetItem([finding.sentence, ""])
            row.setData(0, Qt.ItemDataRole.UserRole, number)
            row.setToolTip(0, finding.sentence)
            row.setSizeHint(0, QSize(0, 34))
            self.list.addTopLevelItem(row)
            if finding.fix is not None:
                button = QPushButton(finding.offer)
                button.clicked.connect(lambda _=False, f=finding: self._fix(f))
                self.list.setItemWidget(row, 1, button)

    def _go(self, row: QTreeWidgetItem) -> None:
        """Shows the page that a finding is about, where pages are looked at now."""
        finding = self.found[row.data(0, Qt.ItemDataRole.UserRole)]
        if finding.page_id is None:
            return
        if self.session.view == "flatplan":
            self.session.select_pages(finding.pages or (finding.page_id,))
        else:
            self.session.show_page(finding.page_id)

    def _fix(self, finding: Finding) -> None:
        if finding.fix is None:
            return
        try:
            self.session.edit(finding.offer[:1].lower() + finding.offer[1:], finding.fix)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
