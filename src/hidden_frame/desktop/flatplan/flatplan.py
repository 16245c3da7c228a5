"""The flatplan with its strip: find, spreads or pages, size, and how many pages are missing."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSlider,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.plan import count_in_words
from hidden_frame.desktop.commands import Commands
from hidden_frame.desktop.flatplan.view import LARGE, SMALL, FlatplanView
from hidden_frame.desktop.run.thumbnails import Thumbnails
from hidden_frame.desktop.session import Session


class Flatplan(QWidget):
    """`view` holds the pages."""

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.view = FlatplanView(session, thumbnails)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        strip = QFrame()
        strip.setObjectName("TextStrip")
        self.row = QHBoxLayout(strip)
        self.row.setContentsMargins(12, 5, 12, 5)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find pages: iv, #17, a word")
        self.search.setToolTip("A folio, #position, range, section, master, or a word on the page")
        self.search.setAccessibleName("Find pages")
        self.search.setClearButtonEnabled(True)
        self.search.setMinimumWidth(200)
        self.search.setMaximumWidth(250)
        self.search.textChanged.connect(self.view.search)
        self.search.returnPressed.connect(self.view.next_match)
        self.row.addWidget(self.search)
        self.hits = QLabel()
        self.hits.setObjectName("Quiet")
        self.view.found.connect(self._tell_hits)
        self.row.addWidget(self.hits)
        self.row.addStretch(1)
        self.count = QLabel()
        self.row.addWidget(self.count)
        self.row.addStretch(1)
        self.single = QCheckBox("Single pages")
        self.single.toggled.connect(self.view.set_single)
        self.row.addWidget(self.single)
        self.size_slider = QSlider(Qt.Orientation.Horizontal)
        self.size_slider.setRange(SMALL, LARGE)
        self.size_slider.setValue(self.view.page_height)
        self.size_slider.setMaximumWidth(120)
        self.size_slider.setAccessibleName("Size of the pages")
        self.size_slider.setToolTip("Size of the pages (Ctrl and the wheel)")
        self.size_slider.valueChanged.connect(self.view.zoom_to)
        self.view.zoomed.connect(self.size_slider.setValue)
        self.row.addWidget(self.size_slider)
        column.addWidget(strip)
        column.addWidget(self.view, 1)
        session.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        self.count.setText(count_in_words(self.session.publication))

    def _tell_hits(self, count: int) -> None:
        words = f"{count} page{'s' * (count != 1)}" if count else "nothing"
        self.hits.setText("" if count < 0 else words)

    def add_commands(self, commands: Commands) -> None:
        """Buttons, once there are commands."""
        for n, (text, name) in enumerate(
            (("Move…", "move pages"), ("Fill up…", "fill up"), ("Spreads…", "spreads"))
        ):
            button = QToolButton()
            button.setText(text)
            button.setToolTip(commands.tip(name))
            button.clicked.connect(commands[name].trigger)
            commands[name].changed.connect(
                lambda b=button, a=commands[name]: b.setEnabled(a.isEnabled())
            )
            self.row.insertWidget(2 + n, button)
