"""Pages that differ between two states of a publication, one above the other."""

from __future__ import annotations

import time
from collections.abc import Mapping
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from hidden_frame.compose.composition import Composition
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.interact.words.compared import Differing, differing_pages

_MOST, _WIDE, _HIGH = 4, 104, 150  # pages shown, and the pixels of one
_SECONDS = 0.8  # given to the search for pages that look different


class State(NamedTuple):
    """A publication, laid out, and the bytes of its pictures."""

    composition: Composition
    blobs: Mapping[str, bytes]


class DifferingPages(QWidget):
    """`names` of the two states stand before their rows."""

    def __init__(self, names: tuple[str, str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._names = names
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(12)
        self.shown: list[Differing] = []

    def compare(self, mine: State | None, theirs: State) -> None:
        """Shows where they differ; nothing where there is no other state."""
        while (taken := self._grid.takeAt(0)) is not None:
            if taken.widget() is not None:
                taken.widget().deleteLater()
        self.shown = []
        if mine is None:
            return
        states = (mine, theirs)
        both = [state.composition for state in states]
        until = time.perf_counter() + _SECONDS
        found = differing_pages(*both, lambda n: n >= _MOST or time.perf_counter() > until)
        self.shown = found[:_MOST]
        if not self.shown:
            return
        for row, name in enumerate(self._names, 1):
            label = QLabel(name)
            label.setObjectName("Quiet")
            self._grid.addWidget(label, row, 0)
        self._grid.setColumnStretch(len(self.shown) + 1, 1)
        for column, page in enumerate(self.shown, 1):
            owner = both[page.how != "gone"]
            folio = owner.facts[page.page_id].folio or f"#{owner.facts[page.page_id].position}"
            self._grid.addWidget(QLabel(f"Page {folio}: {page.how}"), 0, column)
            for row, state in enumerate(states, 1):
                self._grid.addWidget(self._picture(state, page.page_id), row, column)

    def _picture(self, state: State, page_id: str) -> QLabel:
        composition = state.composition
        label = QLabel("not there")
        label.setAlignment(Qt.AlignmentFlag.AlignCenter)
        label.setFixedHeight(_HIGH)
        if page_id not in composition.facts:
            label.setObjectName("Quiet")
            return label
        ratio = self.devicePixelRatioF()
        thumbnails = Thumbnails(PictureShelf(state.blobs))
        scene = composition.scene(page_id)
        wide = round(min(_WIDE, (_HIGH - 4) * scene.width / scene.height))
        drawn: QPixmap = thumbnails.render(scene, wide, ratio)
        label.setPixmap(drawn)
        label.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        return label
