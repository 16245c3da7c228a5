"""Three steps for the first day, on a card over the desk that can be closed for good."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hidden_frame.desktop.look.fitting import as_high_as_its_words
from hidden_frame.desktop.look.settings import settings

STEPS = (
    (
        "Build what repeats",
        "Click a master on the Shelf. The desk turns ochre, and what you draw appears on every "
        "page that follows it.",
    ),
    (
        "Lay out a page",
        "Click a page in the Run below, then draw with the tools above. Orange lines show what "
        "an item snaps to.",
    ),
    (
        "Number the pages",
        "Folios… places page numbers on all masters at once. F1 lists every command with its key.",
    ),
)


class HintCard(QFrame):
    """Stands at the foot of the desk until it is closed."""

    def __init__(self, desk: QWidget) -> None:
        super().__init__(desk)
        self._over = desk
        self.setObjectName("Card")
        self.step = 0
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 12, 12)
        self.head = QLabel()
        self.head.setObjectName("Title")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setMinimumWidth(330)
        row = QHBoxLayout()
        self.count = QLabel()
        self.count.setObjectName("Quiet")
        self.close_button = QPushButton("Don’t show again")
        self.next = QPushButton("Next")
        row.addWidget(self.count)
        row.addStretch(1)
        row.addWidget(self.close_button)
        row.addWidget(self.next)
        for widget in (self.head, self.words):
            column.addWidget(widget)
        column.addLayout(row)
        self.next.clicked.connect(self._go_on)
        self.close_button.clicked.connect(lambda: settings().change(hints=False))
        settings().changed.connect(self.refresh)
        desk.installEventFilter(self)
        self.refresh()

    def refresh(self) -> None:
        head, words = STEPS[self.step]
        self.head.setText(head)
        self.words.setText(words)
        self.count.setText(f"{self.step + 1} of {len(STEPS)}")
        self.next.setText("Next" if self.step < len(STEPS) - 1 else "Begin")
        self.setVisible(settings().now.hints)
        self._settle()

    def _go_on(self) -> None:
        if self.step == len(STEPS) - 1:
            settings().change(hints=False)
            return
        self.step += 1
        self.refresh()

    def _settle(self) -> None:
        as_high_as_its_words(self, 372)
        self.move(16, self._over.height() - self.height() - 16)

    def event(self, event: QEvent) -> bool:
        """Words that became larger, as when the window is dressed, make it higher."""
        done = super().event(event)
        if event.type() == QEvent.Type.LayoutRequest:
            self._settle()
        return done

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize:
            self._settle()
        return False
