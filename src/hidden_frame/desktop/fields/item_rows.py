"""What every row of an item's form needs: the item meant, its fields, and how one value
becomes one edit."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox, QLabel, QToolButton, QVBoxLayout

from hidden_frame.desktop.fields.fields import Choice, NumberField, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.masters.overrides import follow
from hidden_frame.interact.hands.shown import change_shown, shown_item
from hidden_frame.model.items import Item
from hidden_frame.model.publication import Publication


class ItemRows(Form):
    """A form of rows, each with a button that lets the property follow the master again.

    `loaders` show an item's values; `overflow`, `offers` and `resolution` are there for the
    kinds that have them.
    """

    def __init__(self, session: Session, item_id: str) -> None:
        super().__init__()
        self.session = session
        self.holder, self.side, self.item_id = session.holder_id, session.side, item_id
        self.follows: dict[str, QToolButton] = {}
        self.fields: dict[str, object] = {}
        self.loaders: list[Callable[[Item], None]] = []
        self.overflow = self.resolution = self.story = QLabel()
        self.offers = QVBoxLayout()

    def item_now(self) -> Item | None:
        return shown_item(self.session.publication, self.holder, self.item_id, self.side)

    def open(self) -> bool:
        return self.session.may_change(self.holder, self.item_id)

    def add(
        self,
        label: str,
        name: str,
        field: object,
        load: Callable[[Item], None],
        beside: bool = False,
    ) -> None:
        button = self.row(label, field, beside=beside)  # type: ignore[arg-type]
        button.clicked.connect(lambda: self.follow_again(name))
        self.follows[name] = button
        self.fields[name] = field
        self.loaders.append(load)

    def check(self, label: str, name: str) -> None:
        box = QCheckBox(label)
        box.setAccessibleName(label)
        box.clicked.connect(lambda on: self.change(label, **{name: on}))
        self.add("", name, box, lambda item: box.setChecked(getattr(item, name)))

    def typed(
        self, label: str, name: str, field: object, show: Callable, beside: bool = False
    ) -> None:
        field.committed.connect(lambda value: self.change(label, **{name: value}))  # type: ignore[attr-defined]
        self.add(label, name, field, lambda item: show(getattr(item, name)), beside)

    def text(self, label: str, name: str) -> None:
        field = TextField(label)
        self.typed(label, name, field, field.show_text)

    def number(
        self, label: str, name: str, sign: str, low: float, high: float, scale: float = 1.0
    ) -> None:
        field = NumberField(label, sign, low, high, scale)
        self.typed(label, name, field, field.show_value)

    def choice(
        self, label: str, name: str, options: Callable[[Publication], list[tuple[str, object]]]
    ) -> None:
        field = Choice(label)
        field.committed.connect(lambda value: self.change(label, **{name: value}))
        self.add(
            label,
            name,
            field,
            lambda item: field.show_choice(options(self.session.publication), getattr(item, name)),
        )

    def change(self, label: str, **properties: object) -> None:
        """One typed or chosen value becomes one edit."""
        name = label if label.startswith("fit") else f"change {label.lower()}"
        if set(properties) == {"name"}:
            self.session.edit(
                name, lambda p: change_items(p, self.holder, {self.item_id: properties})
            )
            return
        self.session.edit(
            name, lambda p: change_shown(p, self.holder, self.side, {self.item_id: properties})
        )

    def follow_again(self, *names: str) -> None:
        if not names:
            self.session.lock(self.holder, self.item_id)
        self.session.edit(
            "follow the master", lambda p: follow(p, self.holder, self.item_id, *names)
        )
