"""A report of faults, shown before it is copied."""

from __future__ import annotations

import PySide6
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.faultlog import log_file, report


class ReportDialog(QDialog):
    """What can be told to others: nothing of a publication is in it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Report")
        self.resize(560, 420)
        column = QVBoxLayout(self)
        note = QLabel(
            "Version, system and recent errors. It contains nothing from your publications."
        )
        note.setWordWrap(True)
        column.addWidget(note)
        qt = f"Qt for Python {PySide6.__version__}"
        self.text = QPlainTextEdit(report().replace("\n\n", f"\n{qt}\n\n", 1))
        self.text.setReadOnly(True)
        self.text.setAccessibleName("Report")
        column.addWidget(self.text, 1)
        where = QLabel(f"Full log: {log_file()}")
        where.setObjectName("Quiet")
        where.setWordWrap(True)
        column.addWidget(where)
        row = QHBoxLayout()
        row.addStretch(1)
        close, self.copy = QPushButton("Close"), QPushButton("Copy")
        self.copy.setDefault(True)
        row.addWidget(close)
        row.addWidget(self.copy)
        column.addLayout(row)
        close.clicked.connect(self.reject)
        self.copy.clicked.connect(self._copy)

    def _copy(self) -> None:
        QGuiApplication.clipboard().setText(self.text.toPlainText())
        self.accept()
