"""What the desk offers a gesture to snap to, gathered once for a gesture."""

from __future__ import annotations

from functools import cached_property

from PySide6.QtCore import Qt

from hidden_frame.compose.cascade import shown_on
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.shown import box_of, items_on
from hidden_frame.interact.hands.snapping import (
    Edges,
    Neighbour,
    SnapLine,
    Snapped,
    SnapTarget,
    item_targets,
    page_targets,
    snapped,
)
from hidden_frame.model.layouts import PageLayout, master_layout, page_layout
from hidden_frame.model.lookup import find_page, masters_by_id
from hidden_frame.model.plane.box import Bounds, bounds_of
from hidden_frame.model.publication import Publication

_EXACT = 1e-6


def layout_of(session: Session, face: Face) -> PageLayout:
    """Margins, columns, guides and grid of a page or master on the desk."""
    return _layout(session.publication, face)


def _layout(publication: Publication, face: Face) -> PageLayout:
    if face.holder_id in masters_by_id(publication):
        return master_layout(publication, face.holder_id)
    return page_layout(publication, find_page(publication, face.holder_id))


class Snapper:
    """Lines and boxes in the spread's coordinates; `without` are items that move.

    They are those of the moment in which the gesture starts, and gathered when first asked for:
    most presses are clicks, and snap to nothing.
    """

    def __init__(self, session: Session, zoom: float, without: set[str]) -> None:
        chosen = settings().now
        self.reach = chosen.reach / zoom if chosen.snapping else 0.0
        self._snap = chosen.snap if chosen.guides else chosen.snap._replace(guides=False)
        self._publication, self._faces, self._without = (
            session.publication,
            session.faces(),
            without,
        )

    @cached_property
    def targets(self) -> list[SnapTarget]:
        """The lines of pages, masters and items."""
        if not self.reach:
            return []
        publication = self._publication
        found: list[SnapTarget] = []
        for face in self._faces:
            layout = _layout(publication, face)
            found += page_targets(face.x, face.side, publication.setup, layout, self._snap)
        if self._snap.items:
            found += item_targets(self._named)
        return found

    @cached_property
    def others(self) -> list[Bounds]:
        """The boxes between which gaps are measured."""
        if not (self.reach and self._snap.gaps):
            return []
        return [bounds for bounds, _, _ in self._named]

    @cached_property
    def _named(self) -> list[Neighbour]:
        """Items that can be seen: bounds, name, where their page begins."""
        publication = self._publication
        hidden = {layer.id for layer in publication.layers if not layer.visible}
        named: list[Neighbour] = []
        for face in self._faces:
            for resolved in items_on(publication, face.holder_id, face.side):
                item = resolved.item
                if item.id in self._without or not item.visible or item.layer in hidden:
                    continue
                bounds = bounds_of(box_of(shown_on(resolved, face.side, publication.setup)))
                named.append(Neighbour(bounds.moved(face.x, 0.0), item.name or "item", face.x))
        return named

    def snap(
        self,
        bounds: Bounds,
        keys: Qt.KeyboardModifier,
        edges: Edges | None = None,
        gaps: bool = True,
    ) -> Snapped:
        """Where a box goes; Ctrl held down suspends snapping."""
        if not self.reach or keys & Qt.KeyboardModifier.ControlModifier:
            return Snapped()
        others = self.others if gaps else []
        return snapped(bounds, self.targets, others, self.reach, edges)

    def touched(self, bounds: Bounds, edges: Edges | None = None) -> tuple[SnapLine, ...]:
        """The lines that a box at rest lies on exactly."""
        if not self.reach:
            return ()
        return snapped(bounds, self.targets, (), _EXACT, edges).lines
