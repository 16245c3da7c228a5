"""A new item drawn from corner to corner."""

from __future__ import annotations

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Alt, Gesture, Keys, Shift
from hidden_frame.desktop.views.desk.snapper import Snapper
from hidden_frame.interact.hands.hits import Spot, face_at
from hidden_frame.interact.hands.shown import add_shown
from hidden_frame.interact.sight.value import Tool
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.number_format import decimal
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.plane.box import Bounds, Box, around, line_between
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Paragraph
from hidden_frame.model.units import round_gutter

_WORDS = {"text": "text frame", "picture": "picture frame", "line": "line"}


class DrawGesture(Gesture):
    """Shift draws squares, circles and level lines, Alt from the middle, Ctrl without
    snapping; a mere click gives the item a usual size."""

    def __init__(self, session: Session, tool: Tool, start: Spot, zoom: float) -> None:
        super().__init__(session, start)
        self.tool = tool
        self.made = ""
        self.face = start.face  # on which it comes to stand
        self.snapper = Snapper(session, zoom, set())
        self.origin: tuple[float, float] | None = None

    def _snapped(self, x: float, y: float, keys: Keys) -> tuple[float, float]:
        """A point of the start's page, drawn to what is near it."""
        at = x + self.start.face.x
        snap = self.snapper.snap(Bounds(at, y, at, y), keys, ((at,), (y,)), gaps=False)
        return x + snap.dx, y + snap.dy

    def drag(self, spot: Spot, keys: Keys) -> None:
        if self.origin is None:
            self.origin = self._snapped(self.start.x, self.start.y, keys)
        x, y = self._snapped(spot.x + spot.face.x - self.start.face.x, spot.y, keys)
        box = self._box(x, y, keys)
        at = x + self.start.face.x
        self.lines = self.snapper.touched(Bounds(at, y, at, y), ((at,), (y,)))
        if self.tool == "line":
            self.words = f"{self.length(box.width)} · {decimal(box.rotation, 1, trimmed=False)}°"
        else:
            self.words = f"{self.length(box.width)} × {self.length(box.height)}"
        publication, self.made = self._with(box)
        self.session.set_draft(publication)

    def _box(self, x: float, y: float, keys: Keys) -> Box:
        x1, y1 = self.origin or (self.start.x, self.start.y)
        if self.tool == "line":
            if keys & Shift:
                x, y = (x, y1) if abs(x - x1) >= abs(y - y1) else (x1, y)
            if keys & Alt:
                x1, y1 = 2 * x1 - x, 2 * y1 - y
            return line_between(x1, y1, x, y)
        box = around(x1, y1, x, y, bool(keys & Shift))
        if keys & Alt:
            return Box(x1 - box.width, y1 - box.height, 2 * box.width, 2 * box.height)
        return box

    def _with(self, box: Box) -> tuple[Publication, str]:
        """It goes to the page that its middle lies on (R5)."""
        publication, start = self.session.history.now, self.start.face
        middle = box.x + box.width / 2 + start.x
        self.face = face_at(self.session.faces(), publication.setup.trim.width, middle)
        box = box._replace(x=box.x + start.x - self.face.x)
        item = new_item(publication, self.tool, box)
        return add_shown(publication, self.face.holder_id, self.face.side, item)

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        session = self.session
        if not dragged or not self.made:
            x, y = self._snapped(self.start.x, self.start.y, keys)
            box = Box(x, y, 140.0, 0.0 if self.tool == "line" else 70.0)
            publication, self.made = self._with(box)
            session.set_draft(publication)
        made, tool = self.made, self.tool
        session.commit_draft(f"draw {_WORDS.get(tool, 'shape')}")
        session.set_tool("select")
        session.select_items(self.face, (made,))


def new_item(publication: Publication, tool: Tool, box: Box) -> Item:
    """An item as a tool draws it, in the publication's own colours and styles."""
    place = box._asdict()
    colour = publication.colours[0].id
    tinted = next(
        (c.id for c in publication.colours if c.id == "spruce"), publication.colours[-1].id
    )
    place["layer"] = usual_layer(publication)
    if tool == "text":
        style = publication.paragraph_styles[0].id
        gutter = round_gutter(publication.setup.unit)
        return TextFrame(id="", text=(Paragraph(style),), gutter=gutter, **place)
    if tool == "picture":
        return PictureFrame(id="", **place)
    if tool == "line":
        return Line(id="", stroke=Stroke(colour=colour, width=1.0), **place)
    return Shape(id="", form=tool, fill=Fill(tinted), **place)  # type: ignore[arg-type]


def usual_layer(publication: Publication) -> str:
    """The layer that new items go to: Content, or the lowest that can be worked on."""
    free = [x.id for x in publication.layers if x.visible and not x.locked]
    if "content" in free or not free:
        return "content" if "content" in free else publication.layers[0].id
    return free[0]
