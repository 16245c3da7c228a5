"""Which texts on the desk are hard to read: found out once the desk rests, since it takes
longer than a frame."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from hidden_frame.compose.contrast import Poor, poor_texts
from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.state.session import Session


class ContrastJudge(QObject):
    """`poor` tells what is known of a scene, and finds out a moment later what is not."""

    def __init__(self, session: Session, desk: QWidget) -> None:
        super().__init__(desk)
        self._session, self._desk = session, desk
        self._known: dict[int, tuple[Scene, dict[str, Poor]]] = {}
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(150)
        self._later.timeout.connect(self._find_out)

    def poor(self, scene: Scene) -> dict[str, Poor]:
        known = self._known.get(id(scene))
        if known is not None and known[0] is scene:
            return known[1]
        if not self._later.isActive():
            self._later.start()
        return {}

    def _find_out(self) -> None:
        if self._session.busy or not self._desk.isVisible():
            return  # it is asked again when the desk is painted
        scenes = [self._session.scene_of(face) for face in self._session.faces()]
        self._known = {id(s): (s, poor_texts(s)) for s in scenes}
        if any(poor for _, poor in self._known.values()):
            self._desk.update()
