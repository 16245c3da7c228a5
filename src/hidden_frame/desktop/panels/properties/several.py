"""Properties of several selected items together."""

from __future__ import annotations

from collections.abc import Callable

from hidden_frame.desktop.fields.fields import LengthField, NumberField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.panels.properties.place import add_arrange, add_reference
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.line_up import reshape
from hidden_frame.interact.hands.shown import box_of, change_shown, shown_items
from hidden_frame.model.plane.box import (
    Bounds,
    Box,
    around_all,
    bounds_of,
    placed_at,
    sized_at,
    turned_about,
)
from hidden_frame.model.publication import Publication


class SeveralForm(Form):
    """Place and size of the box around them, and how they are lined up."""

    def __init__(self, session: Session, run: Callable[[str], None]) -> None:
        super().__init__()
        self.session = session
        unit = session.publication.setup.unit
        self.name = self.title("")
        self.what = self.note("Drag them, or use the arrow keys, to move them together.")
        self.points = add_reference(self, session)
        self.fields: dict[str, LengthField] = {}
        for label, name in (("X", "x"), ("Y", "y"), ("Width", "width"), ("Height", "height")):
            field = LengthField(label, unit, 0.01 if name in ("width", "height") else None)
            field.committed.connect(lambda value, n=name: self._change(n, float(value)))
            self.row(label, field, beside=name in ("y", "height"))
            self.fields[name] = field
        self.grid = None
        self.turn = NumberField("Turn by", "°", -360, 360)
        self.turn.committed.connect(lambda value: self._turn(float(value)))
        self.row("Turn by", self.turn)
        self.arrange = add_arrange(self, session, run)
        group, ungroup = self.buttons("Group", "Ungroup")
        group.clicked.connect(lambda: run("group"))
        ungroup.clicked.connect(lambda: run("ungroup"))
        self.end()

    def _box(self) -> Box:
        session = self.session
        items = shown_items(session.publication, session.holder_id, session.items, session.side)
        a = around_all(bounds_of(box_of(i)) for i in items.values())
        return Box(a.left, a.top, a.width, a.height)

    def load(self) -> None:
        session = self.session
        box, point = self._box(), session.reference
        x, y = box.point(*point)
        values = {
            "x": x - session.zero[0], "y": y - session.zero[1],
            "width": box.width, "height": box.height,
        }  # fmt: skip
        free = session.may_change_all(session.holder_id, session.items)
        self.name.setText(f"{len(session.items)} items")
        self.points.show_point(point)
        for name, field in self.fields.items():
            field.show_value(values[name])
            field.setEnabled(free)
        self.turn.show_value(0.0)
        self.turn.setEnabled(free)
        self.arrange.load()
        self.arrange.setEnabled(free)

    def _turn(self, degrees: float) -> None:
        """All of them turned about the reference point of the box around them."""
        session = self.session
        pivot = self._box().point(*session.reference)
        holder, side, items = session.holder_id, session.side, session.items

        def turned(p: Publication) -> Publication:
            changes: dict[str, dict[str, object]] = {}
            for item_id, item in shown_items(p, holder, items, side).items():
                box = turned_about(box_of(item), pivot, degrees)
                changes[item_id] = {"x": box.x, "y": box.y, "rotation": box.rotation}
            return change_shown(p, holder, side, changes)

        session.edit(f"rotate {len(items)} items", turned)

    def _change(self, name: str, value: float) -> None:
        session = self.session
        box, point = self._box(), session.reference
        holder, side, items = session.holder_id, session.side, session.items
        if name in ("x", "y"):
            at = value + session.zero[0 if name == "x" else 1]
            new = placed_at(box, point, at if name == "x" else None, at if name == "y" else None)
            dx, dy = new.x - box.x, new.y - box.y

            def moved(p: Publication) -> Publication:
                shown = shown_items(p, holder, items, side)
                changes: dict[str, dict[str, object]] = {
                    i: {"x": item.x + dx, "y": item.y + dy} for i, item in shown.items()
                }
                return change_shown(p, holder, side, changes)

            session.edit(f"move {len(items)} items", moved)
            return
        width, height = (value, None) if name == "width" else (None, value)
        new = sized_at(box, point, width, height)
        to = Bounds(new.x, new.y, new.x + new.width, new.y + new.height)
        session.edit(f"resize {len(items)} items", lambda p: reshape(p, holder, side, items, to))
