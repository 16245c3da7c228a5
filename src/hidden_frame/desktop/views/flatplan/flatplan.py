"""The flatplan with its strip: find, spreads or pages, size, and how many pages are missing."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QLabel, QVBoxLayout, QWidget

from hidden_frame.desktop.look.fitting import Folding, ShortLabel
from hidden_frame.desktop.look.strip import search_field, size_slider, strip, text_button
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.flatplan.legend import Legend
from hidden_frame.desktop.views.flatplan.view import LARGE, SMALL, FlatplanView
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.interact.finds.plan import count_in_words
from hidden_frame.model.plural import pages_counted

_BUTTONS = (("Move…", "move pages"), ("Fill the sheet…", "fill up"), ("Spreads…", "spreads"))


class Flatplan(QWidget):
    """`view` holds the pages."""

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.view = view = FlatplanView(session, thumbnails)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.frame, self.row = strip()
        self.search = search_field(
            "Find pages", "Find pages: iv, #17, a word", view.search, view.next_match
        )
        self.search.setToolTip("A folio, #position, range, section, master, or a word on the page")
        self.hits = QLabel()
        self.hits.setObjectName("Quiet")
        view.found.connect(self._tell_hits)
        self.count = ShortLabel(least=0)
        self.count.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.single = QCheckBox("Single pages")
        self.single.toggled.connect(view.set_single)
        self.size_slider = size_slider(
            "Size of the pages", SMALL, LARGE, view.page_height, view.zoom_to
        )
        view.zoomed.connect(self.size_slider.setValue)
        self.row.addWidget(self.search)
        self.row.addWidget(self.hits)
        self.row.addWidget(self.count, 1)
        self.row.addSpacing(10)
        self.row.addWidget(self.single)
        self.row.addWidget(self.size_slider)
        column.addWidget(self.frame)
        column.addWidget(view, 1)
        session.changed.connect(self.refresh)
        self.refresh()

    def show_legend(self) -> None:
        """The legend of the marks, under the bar."""
        self.legend = Legend(self)
        corner = self.frame.mapToGlobal(self.frame.rect().bottomRight())
        self.legend.adjustSize()
        self.legend.move(corner.x() - self.legend.width() - 8, corner.y() + 4)
        self.legend.show()

    def refresh(self) -> None:
        self.count.setText(count_in_words(self.session.publication))

    def _tell_hits(self, count: int) -> None:
        words = pages_counted(count) if count else "nothing"
        self.hits.setText("" if count < 0 else words)

    def add_commands(self, commands: Commands) -> None:
        """Buttons, once there are commands."""
        fit = text_button("Fit all", "The whole publication in sight", self.view.fit_all)
        legend = text_button("Marks", "What the marks on pages mean", self.show_legend)
        self.row.insertWidget(self.row.indexOf(self.size_slider), fit)
        self.row.insertWidget(self.row.indexOf(self.size_slider) + 1, legend)
        buttons: list[QWidget] = [fit, legend]
        for n, (text, name) in enumerate(_BUTTONS):
            action = commands[name]
            button = text_button(text, commands.tip(name), action.trigger)
            buttons.append(button)
            button.setEnabled(action.isEnabled())
            action.changed.connect(lambda b=button, a=action: b.setEnabled(a.isEnabled()))
            self.row.insertWidget(2 + n, button)
        self.folding = Folding(self.frame, self.row, [*buttons[:1:-1], *buttons[:2]])
