"""Where the desk looks: its view, what it is kept fitted to, and what lies under a point of it."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPointF, QTimer, Signal
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.desk.view import View, fitted, widened
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot, face_at
from hidden_frame.model.plane.box import Bounds

_REST = 90  # milliseconds after which a view counts as resting
_SEEN = 80  # pixels of a page across from which on it is in sight
_EDGE = 34  # pixels between a page that is brought into sight and the desk's edge


class Camera(QObject):
    """`moved`: it looks elsewhere, or rests again.  While it is `moving` the pages are shown as
    they were painted before, moved and scaled; once it rests they are painted sharp."""

    moved = Signal()

    def __init__(self, session: Session, selected: Selected, port: QWidget) -> None:
        super().__init__(port)
        self._session, self._selected, self._port = session, selected, port
        self.view = View()
        self.fit = "spread"
        self.moving = False
        self._faces: tuple[Face, ...] = ()
        self._holder = ""
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST)
        self._rest.timeout.connect(self._sharpen)

    def follow(self) -> None:
        """Fits again if another number of pages, or others in size or side, lie on the desk."""
        faces = self._session.faces()
        if [(f.x, f.side) for f in faces] != [(f.x, f.side) for f in self._faces]:
            self.refit()
        elif self._session.holder_id != self._holder:
            self._bring_into_sight()
        self._faces, self._holder = faces, self._session.holder_id

    def _bring_into_sight(self) -> None:
        """Moves the paper across where the page that is worked on now is out of sight."""
        area = self.extent("page")
        if area is None:
            return
        left, _ = self.view.to_widget(area.left, area.top)
        right, _ = self.view.to_widget(area.right, area.top)
        wide = self._port.width()
        if min(right, wide) - max(left, 0) >= min(right - left, _SEEN):
            return
        fits = right - left <= wide - 2 * _EDGE
        to = wide - _EDGE - (right - left) if fits and left > wide - _SEEN else _EDGE
        self.look(self.view.moved(to - left, 0.0))

    def refit(self) -> None:
        """Fits the spread or the page again, if one of them is to be kept fitted."""
        if self.fit:
            self.fit_to(self.fit)

    def extent(self, what: str) -> Bounds | None:
        """The part of the desk that is the `page`, the `spread` or the `selection`, in points."""
        session = self._session
        faces = session.faces()
        if not faces:
            return None
        if what == "selection":
            found = self._selected.bounds()
            if found is not None:
                return found
            what = "page"
        if what == "page":
            chosen = [f for f in faces if f.holder_id == session.holder_id]
            chosen = [f for f in chosen if f.side == session.side] or chosen
            faces = tuple(chosen[:1]) or faces
        trim = session.publication.setup.trim
        left = min(f.x for f in faces)
        return Bounds(left, 0.0, max(f.x for f in faces) + trim.width, trim.height)

    def fit_to(self, what: str) -> None:
        """Shows the whole `spread`, the `page` that is worked on, the `selection`, or the
        spread as wide as the desk (`width`)."""
        area = self.extent("spread" if what == "width" else what)
        if area is None:
            return
        self.fit = what if what in ("page", "spread", "width") else ""
        width, height = self._port.width(), self._port.height()
        self.look(widened(*area, width, height) if what == "width" else
                   fitted(*area, width, height))  # fmt: skip

    def actual_size(self) -> None:
        """As large as it will be printed, by the resolution that the screen reports."""
        screen = self._port.screen()
        dots = screen.physicalDotsPerInch() if screen is not None else 96.0
        # Some report nonsense.
        dots = dots if 40 <= dots <= 800 else float(self._port.logicalDpiX())
        self.zoom_by(dots / 72 / self.view.zoom)

    def zoom_by(self, factor: float, at: QPointF | None = None, moving: bool = False) -> None:
        """Zooms about a point of the desk, its middle without one."""
        point = at if at is not None else QPointF(self._port.width() / 2, self._port.height() / 2)
        self.fit = ""
        self.look(self.view.zoomed(factor, point.x(), point.y()), moving)

    def scroll_by(self, across: float, down: float) -> None:
        """Moves the paper by so many pixels."""
        self.fit = ""
        self.look(self.view.moved(across, down), moving=True)

    def spot(self, point: QPointF) -> Spot:
        """The page and the place on it under a point of the desk."""
        x, y = self.view.to_spread(point.x(), point.y())
        session = self._session
        face = face_at(session.faces(), session.publication.setup.trim.width, x)
        return Spot(face, x - face.x, y)

    def _sharpen(self) -> None:
        self.moving = False
        self._port.update()

    def look(self, view: View, moving: bool = False) -> None:
        """Looks at the desk so; with `moving` something else is on its way."""
        if view == self.view:
            return
        self.view, self.moving = view, moving
        if moving:
            self._rest.start()
            self._session.hurry()
        self.moved.emit()
