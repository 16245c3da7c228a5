"""Where pages lie, as a hand asks: each view of pages answers from its own layout.

Points are those of the view's widget; gaps and boxes those of all that can be scrolled to.
"""

from __future__ import annotations

from typing import NamedTuple, Protocol

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.state.session import Session


class Gap(NamedTuple):
    """A place between pages: before the page at `place` of a section, drawn as a line; for a
    whole section, before the section, "" being the end."""

    section_id: str
    place: int
    x: float
    top: float
    bottom: float


class SectionHead(NamedTuple):
    """A section's head under a point, and whether the point is on the mark that folds it."""

    section_id: str
    folds: bool


class PageSpace(Protocol):
    """A view of pages."""

    session: Session

    def to_plan(self, point: QPointF) -> QPointF:
        """A widget's point among all that can be scrolled to."""

    def page_at(self, point: QPointF) -> str | None:
        """The page under a point."""

    def head_at(self, point: QPointF) -> SectionHead | None:
        """The section's head under a point."""

    def within_at(self, point: QPointF) -> float:
        """How far within the page under a point it is, in pixels from its nearer side."""

    def gap_at(self, point: QPointF) -> Gap | None:
        """Where pages dropped at a point go."""

    def section_gap_at(self, point: QPointF) -> Gap | None:
        """Where a section dropped at a point goes."""

    def touched(self, box: QRectF) -> list[str]:
        """The pages that a rubber band touches."""

    def fold(self, section_id: str) -> None:
        """Hides a section's pages, or shows them again."""

    def bring_into_view(self, page_id: str) -> None:
        """Scrolls so that a page is seen."""

    def scroll_towards(self, point: QPointF) -> bool:
        """Scrolls if a point is near an edge; whether it did."""

    def viewport(self) -> QWidget: ...

    def setCursor(self, shape: Qt.CursorShape) -> None: ...

    def unsetCursor(self) -> None: ...
