"""Rows of where an item stands, against the reference point and the rulers' zero."""

from __future__ import annotations

from hidden_frame.desktop.fields.fields import LengthField, NumberField
from hidden_frame.desktop.fields.item_rows import ItemRows
from hidden_frame.interact.hands.shown import box_of
from hidden_frame.model.items import Item
from hidden_frame.model.plane.box import Box, placed_at, sized_at
from hidden_frame.model.units import Unit


def add_length(form: ItemRows, label: str, name: str, unit: Unit, beside: bool) -> None:
    """A length against the reference point and the rulers' zero."""
    field = LengthField(label, unit, 0.0 if name in ("width", "height") else None)
    if name in ("width", "height"):
        field.above = True
    across = name == "x"

    def load(item: Item) -> None:
        box, zero = box_of(item), form.session.zero
        x, y = box.point(*form.session.reference)
        values = {"x": x - zero[0], "y": y - zero[1], "width": box.width, "height": box.height}
        field.show_value(values[name])

    def commit(value: object) -> None:
        item = form.item_now()
        if item is None:
            return
        number, zero = float(value), form.session.zero  # type: ignore[arg-type]
        box, point = box_of(item), form.session.reference
        if name in ("x", "y"):
            x = number + zero[0] if across else None
            new = placed_at(box, point, x, None if across else number + zero[1])
        else:
            width, height = (number, None) if name == "width" else (None, number)
            new = sized_at(box, point, width, height)
        form.change(label, **_differing(box, new))

    field.committed.connect(commit)
    form.add(label, name, field, load, beside)


def add_rotation(form: ItemRows) -> None:
    """The angle, about the reference point."""
    field = NumberField("Rotation", "°", -360, 360)

    def commit(angle: object) -> None:
        item = form.item_now()
        if item is None:
            return
        box, point = box_of(item), form.session.reference
        turned = box._replace(rotation=float(angle))  # type: ignore[arg-type]
        new = placed_at(turned, point, *box.point(*point))
        form.change("rotation", **_differing(box, new))

    field.committed.connect(commit)
    form.add("Rotation", "rotation", field, lambda item: field.show_value(item.rotation))


def _differing(old: Box, new: Box) -> dict[str, object]:
    """What a new box changes; what arithmetic moves by less than can be seen stays."""
    values = new._asdict()
    return {n: v for n, v in values.items() if abs(v - getattr(old, n)) > 1e-9}
