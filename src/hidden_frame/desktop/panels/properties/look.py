"""Rows of how an item looks: colours and their tints, the stroke and its dashes."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.desktop.dialogs.colour_choice import ColourChoice
from hidden_frame.desktop.fields.fields import DashField, LengthField, NumberField
from hidden_frame.desktop.fields.item_rows import ItemRows
from hidden_frame.edit.looks.colours import filled_with, stroked_with
from hidden_frame.model.items import Item

BLENDS: list[tuple[str, object]] = [("normal", "normal"), ("multiply: darkens", "multiply")]


def add_colour(form: ItemRows, label: str, name: str) -> None:
    field = ColourChoice(label, form.session)

    def load(item: Item) -> None:
        paint = getattr(item, name)
        field.show_colours(None if paint is None else paint.colour, "none")

    def commit(colour: object) -> None:
        item = form.item_now()
        before = getattr(item, name) if item is not None else None
        taken = None if colour is None else str(colour)
        painted = filled_with if name == "fill" else stroked_with
        form.change(label, **{name: painted(before, taken)})

    field.committed.connect(commit)
    form.add(label, name, field, load)


def add_tint(form: ItemRows, label: str, name: str) -> None:
    """Beside the colour whose tint it is."""
    field = NumberField(label, "%", 0, 100, 100.0)

    def load(item: Item) -> None:
        paint = getattr(item, name)
        form.show_row(field, paint is not None)
        field.show_value(paint.tint if paint is not None else 1.0)

    def commit(tint: object) -> None:
        item = form.item_now()
        paint = getattr(item, name) if item is not None else None
        if paint is not None:
            form.change(label, **{name: replace(paint, tint=tint)})

    field.committed.connect(commit)
    field.setFixedWidth(66)  # the name of a colour needs the room
    form.row("Tint", field, beside=True)
    form.fields[label] = field
    form.loaders.append(load)


def add_stroke_width(form: ItemRows) -> None:
    field = LengthField("Stroke width", "pt", 0.01)

    def load(item: Item) -> None:
        form.show_row(field, item.stroke is not None)
        field.show_value(item.stroke.width if item.stroke is not None else 0.0)

    def commit(width: object) -> None:
        item = form.item_now()
        if item is not None and item.stroke is not None:
            new = replace(item.stroke, width=float(width))  # type: ignore[arg-type]
            form.change("Stroke width", stroke=new)

    field.committed.connect(commit)
    form.row("Width", field)
    form.fields["stroke width"] = field
    form.loaders.append(load)


def add_dash(form: ItemRows) -> None:
    field = DashField("Dash")

    def load(item: Item) -> None:
        form.show_row(field, item.stroke is not None)
        field.show_value(item.stroke.dash if item.stroke is not None else ())

    def commit(dash: object) -> None:
        item = form.item_now()
        if item is not None and item.stroke is not None:
            form.change("dash", stroke=replace(item.stroke, dash=dash))

    field.committed.connect(commit)
    field.setFixedWidth(80)
    form.row("Dash", field, beside=True)
    form.fields["dash"] = field
    form.loaders.append(load)
