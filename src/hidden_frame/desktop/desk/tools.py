"""What a hand does on the desk: select, move, size, draw.

A tool is told of press, drag and release in page coordinates and answers with
drafts, which show at once, and at last with one edit.
"""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import Qt

from hidden_frame.compose.placing import on_side
from hidden_frame.compose.shown import change_shown, shown_item
from hidden_frame.desktop.desk.hits import Spot
from hidden_frame.desktop.session import Session, Tool
from hidden_frame.edit.boxes import Box, Handle, around, line_between, resized
from hidden_frame.edit.items import add_item
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Paragraph

Shift = Qt.KeyboardModifier.ShiftModifier
Held = Qt.KeyboardModifier


class Gesture(Protocol):
    """A press that goes on; `drag` is called past the drag distance only."""

    def drag(self, spot: Spot, held: Held) -> None: ...

    def release(self, spot: Spot, held: Held, dragged: bool) -> None: ...

    def cancel(self) -> None: ...


def box_of(item: Item) -> Box:
    return Box(item.x, item.y, item.width, item.height, item.rotation)


class MoveGesture:
    """Moves the selected items; Shift keeps to one axis."""

    def __init__(self, session: Session, start: Spot) -> None:
        self.session = session
        self.start = start
        publication = session.publication
        holder, side = session.holder_id, session.side
        found = {i: shown_item(publication, holder, i, side) for i in session.items}
        self.items = {i: item for i, item in found.items() if item is not None}

    def drag(self, spot: Spot, held: Held) -> None:
        dx = spot.x + spot.face.x - self.start.x - self.start.face.x
        dy = spot.y - self.start.y
        if held & Shift:
            dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
        session = self.session
        changes: dict[str, dict[str, object]] = {
            i: {"x": item.x + dx, "y": item.y + dy} for i, item in self.items.items()
        }
        now = session.history.now
        session.set_draft(change_shown(now, session.holder_id, session.side, changes))

    def release(self, spot: Spot, held: Held, dragged: bool) -> None:
        if dragged:
            self.session.commit_draft(_named("move", len(self.items)))

    def cancel(self) -> None:
        self.session.set_draft(None)


class ResizeGesture:
    """Sizes one item by a handle; Shift keeps its proportions."""

    def __init__(self, session: Session, item: Item, handle: Handle, start: Spot) -> None:
        self.session = session
        self.item = item
        self.handle = handle
        self.start = start

    def drag(self, spot: Spot, held: Held) -> None:
        dx = spot.x + spot.face.x - self.start.x - self.start.face.x
        dy = spot.y - self.start.y
        box = box_of(self.item)
        if isinstance(self.item, Line):
            fixed = box.point(-self.handle[0], 0)
            moved = box.point(self.handle[0], 0)
            ends = (fixed, (moved[0] + dx, moved[1] + dy))
            first, second = ends if self.handle[0] > 0 else ends[::-1]
            new = line_between(*first, *second)
        else:
            new = resized(box, self.handle, dx, dy, bool(held & Shift))
        changes: dict[str, object] = dict(new._asdict())
        if not isinstance(self.item, Line):
            del changes["rotation"]
        session = self.session
        session.set_draft(
            change_shown(
                session.history.now, session.holder_id, session.side, {self.item.id: changes}
            )
        )

    def release(self, spot: Spot, held: Held, dragged: bool) -> None:
        if dragged:
            self.session.commit_draft("resize")

    def cancel(self) -> None:
        self.session.set_draft(None)


class DrawGesture:
    """Draws an item from corner to corner; a mere click gives it a usual size."""

    def __init__(self, session: Session, tool: Tool, start: Spot) -> None:
        self.session = session
        self.tool = tool
        self.start = start
        self.made = ""

    def drag(self, spot: Spot, held: Held) -> None:
        x = spot.x + spot.face.x - self.start.face.x
        publication, self.made = self._with(self._box(x, spot.y, held))
        self.session.set_draft(publication)

    def _box(self, x: float, y: float, held: Held) -> Box:
        x1, y1 = self.start.x, self.start.y
        if self.tool == "line":
            if held & Shift:
                x, y = (x, y1) if abs(x - x1) >= abs(y - y1) else (x1, y)
            return line_between(x1, y1, x, y)
        return around(x1, y1, x, y, bool(held & Shift))

    def _with(self, box: Box) -> tuple[Publication, str]:
        publication = self.session.history.now
        holder, side = self.start.face.holder_id, self.start.face.side
        item = new_item(publication, self.tool, box)
        if holder in masters_by_id(publication):
            item = on_side(item, side, publication.setup.trim.width)
        return add_item(publication, holder, item)

    def release(self, spot: Spot, held: Held, dragged: bool) -> None:
        session = self.session
        if not dragged or not self.made:
            x, y = self.start.x, self.start.y
            box = Box(x, y, 140.0, 0.0 if self.tool == "line" else 70.0)
            publication, self.made = self._with(box)
            session.set_draft(publication)
        words = {"text": "text frame", "picture": "picture frame", "line": "line"}
        made, tool = self.made, self.tool
        session.commit_draft(f"draw {words.get(tool, 'shape')}")
        session.set_tool("select")
        session.select_items(self.start.face, (made,))

    def cancel(self) -> None:
        self.session.set_draft(None)


def new_item(publication: Publication, tool: Tool, box: Box) -> Item:
    """An item as a tool draws it, in the publication's own colours and styles."""
    place = box._asdict()
    colour = publication.colours[0].id
    tinted = next(
        (c.id for c in publication.colours if c.id == "spruce"), publication.colours[-1].id
    )
    layers = [layer.id for layer in publication.layers]
    place["layer"] = "content" if "content" in layers else layers[0]
    if tool == "text":
        style = publication.paragraph_styles[0].id
        return TextFrame(id="", text=(Paragraph(style),), **place)
    if tool == "picture":
        return PictureFrame(id="", **place)
    if tool == "line":
        return Line(id="", stroke=Stroke(colour=colour, width=1.0), **place)
    return Shape(id="", form=tool, fill=Fill(tinted), **place)  # type: ignore[arg-type]


def _named(verb: str, count: int) -> str:
    return verb if count == 1 else f"{verb} {count} items"
