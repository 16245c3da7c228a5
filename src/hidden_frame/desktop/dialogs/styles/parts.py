"""The fields of a style's form: each shows one property and says what it is to be."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

from PySide6.QtWidgets import QCheckBox, QToolButton, QWidget

from hidden_frame.desktop.dialogs.colour_choice import ColourChoice
from hidden_frame.desktop.dialogs.tabs import TabStops
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField


class StylePart(NamedTuple):
    """A property by its name in the model, its field, and how the two are read and shown."""

    name: str
    field: QWidget
    show: Callable[[Any], None]
    read: Callable[[], Any]
    follow: QToolButton


def typed_part(name: str, field: LengthField | NumberField, follow: QToolButton) -> StylePart:
    """A field that holds a length or a number; empty says nothing (None)."""

    def show(value: float | None) -> None:
        if value is None:
            field.show_text("")
        else:
            field.show_value(value)

    def read() -> float | None:
        empty = not field.text().strip() and bool(field.placeholderText())
        if empty:
            return None
        return field.length() if isinstance(field, LengthField) else field.parse(field.text())

    return StylePart(name, field, show, read, follow)


def chosen_part(
    name: str, field: Choice, show: Callable[[Any], None], follow: QToolButton
) -> StylePart:
    """A list of which one entry is chosen."""
    return StylePart(name, field, show, field.value, follow)


def colour_part(
    field: ColourChoice, without: Callable[[], str], follow: QToolButton, name: str = "colour"
) -> StylePart:
    """A list of colours; `without` names the entry for none."""
    return StylePart(name, field, lambda v: field.show_colours(v, without()), field.value, follow)


def ticked_part(name: str, field: QCheckBox, follow: QToolButton) -> StylePart:
    """A box that is ticked or not."""
    return StylePart(name, field, field.setChecked, field.isChecked, follow)


def tabs_part(field: TabStops, follow: QToolButton) -> StylePart:
    """The list of tab stops."""
    return StylePart("tabs", field, field.show_stops, field.stops, follow)
