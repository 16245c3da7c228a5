"""Properties of the selected item."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox, QLabel, QPushButton, QToolButton, QVBoxLayout

from hidden_frame.compose.cascade import Resolved
from hidden_frame.desktop.actions.choices import (
    go_to_item,
    hide_item,
    make_item_local,
    show_item,
)
from hidden_frame.desktop.colour_choice import ColourChoice
from hidden_frame.desktop.properties.fields import (
    Choice,
    LengthField,
    NumberField,
    TextField,
    _Typed,
)
from hidden_frame.desktop.properties.form import Form
from hidden_frame.desktop.properties.kinds import (
    BLENDS,
    add_around,
    add_dash,
    add_kind_rows,
)
from hidden_frame.desktop.properties.place import add_arrange, add_reference
from hidden_frame.desktop.session import Session
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.looks.colours import filled_with, stroked_with
from hidden_frame.edit.masters.faces import set_face
from hidden_frame.edit.masters.overrides import follow
from hidden_frame.interact.remedies import Remedy
from hidden_frame.interact.shown import box_of, change_shown, shown_item
from hidden_frame.model.items import Face, Item, Line, PictureFrame, Placing, Shape, TextFrame
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.plane.box import Box, placed_at, sized_at
from hidden_frame.model.publication import Publication
from hidden_frame.model.units import Unit

KINDS = {TextFrame: "Text frame", PictureFrame: "Picture frame", Shape: "Shape", Line: "Line"}
PLACINGS = (
    ("both faces, mirrored", ("both", "mirrored")),
    ("both faces, same place", ("both", "repeated")),
    ("verso only", ("verso", "mirrored")),
    ("recto only", ("recto", "mirrored")),
)
_LENGTHS = (("X", "x"), ("Y", "y"), ("Width", "width"), ("Height", "height"))

SHOW_AGAIN = "Show again"


class ItemForm(Form):
    """One for each kind of item; `load` makes it that of the item selected."""

    folds = True

    def __init__(
        self, session: Session, item: Item, resolved: Resolved, run: Callable[[str], None]
    ) -> None:
        super().__init__()
        self.session = session
        self.holder, self.side, self.item_id = session.holder_id, session.side, item.id
        self.follows: dict[str, QToolButton] = {}
        self.fields: dict[str, object] = {}
        self.loaders: list[Callable[[Item], None]] = []
        self.overflow = self.resolution = QLabel()
        self.offers = QVBoxLayout()
        self._offered: list[str] = []
        unit = session.publication.setup.unit
        self.title(KINDS[type(item)])
        own = resolved.carrier in (None, self.holder)
        if own:
            self._text("Name", "name")
            if resolved.carrier is not None:
                self._faces()
        else:
            self._origin(resolved)
        self.points = add_reference(self, session)
        for label, name in _LENGTHS:
            if isinstance(item, Line) and name == "height":
                continue
            text = "Length" if isinstance(item, Line) and name == "width" else label
            self._place(text, name, unit, beside=label in ("Y", "Height"))
        self.grid = None  # labels of other lengths have a column of their own
        self._rotation()
        add_kind_rows(self, item, unit)
        self.heading("LOOK")
        if not isinstance(item, Line):
            self._colour("Fill", "fill")
            self._tint("Fill tint", "fill")
        self._colour("Stroke", "stroke")
        self._tint("Stroke tint", "stroke")
        self._stroke_width(unit)
        add_dash(self)
        if self.grid is not None:
            self.grid.setColumnStretch(4, 0)
            self.grid = None  # longer labels follow
        self.number("Opacity", "opacity", "%", 0, 100, 100.0)
        self.choice("Blending", "blend", lambda _: BLENDS)
        self.choice("Layer", "layer", lambda p: [(x.name, x.id) for x in p.layers])
        self.poor = self.note()
        self.poor.setObjectName("Error")
        self.arrange = add_arrange(self, session, run)
        add_around(self, unit)
        self.end()

    # -- rows ----------------------------------------------------------------------

    def _origin(self, resolved: Resolved) -> None:
        """Where a master item comes from, and the four choices."""
        self.origin = self.note()
        here, hide, local, go = self.buttons(
            "Override here", "Hide here", "Make local", "Go to master"
        )
        session = self.session
        here.clicked.connect(lambda: session.unlock(self.holder, self.item_id))
        self.here_button = here
        self.hide_button = hide
        hide.clicked.connect(self._hide_or_show)
        local.clicked.connect(lambda: make_item_local(session, self.item_id))
        local.setVisible(session.mode == "pages")
        go.clicked.connect(lambda: go_to_item(session, self.item_id))
        self.all_follow: QPushButton = self.buttons("Follow the master in everything")[0]
        self.all_follow.clicked.connect(lambda: self.follow_again())

    def _hide_or_show(self) -> None:
        hidden = self.hide_button.text() == SHOW_AGAIN
        (show_item if hidden else hide_item)(self.session, self.item_id)

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

    def _place(self, label: str, name: str, unit: Unit, beside: bool) -> None:
        """A length against the reference point and the rulers' zero."""
        field = LengthField(label, unit, 0.0 if name in ("width", "height") else None)
        if name in ("width", "height"):
            field.above = True
        across = name == "x"

        def load(item: Item) -> None:
            box, zero = box_of(item), self.session.zero
            x, y = box.point(*self.session.reference)
            values = {"x": x - zero[0], "y": y - zero[1], "width": box.width, "height": box.height}
            field.show_value(values[name])

        def commit(value: object) -> None:
            item = self.item_now()
            if item is None:
                return
            number, zero = float(value), self.session.zero  # type: ignore[arg-type]
            box, point = box_of(item), self.session.reference
            if name in ("x", "y"):
                x = number + zero[0] if across else None
                new = placed_at(box, point, x, None if across else number + zero[1])
            else:
                width, height = (number, None) if name == "width" else (None, number)
                new = sized_at(box, point, width, height)
            self.change(label, **_differing(box, new))

        field.committed.connect(commit)
        self.add(label, name, field, load, beside)

    def _rotation(self) -> None:
        """The angle, about the reference point."""
        field = NumberField("Rotation", "°", -360, 360)

        def commit(angle: object) -> None:
            item = self.item_now()
            if item is None:
                return
            box, point = box_of(item), self.session.reference
            turned = box._replace(rotation=float(angle))  # type: ignore[arg-type]
            new = placed_at(turned, point, *box.point(*point))
            self.change("rotation", **_differing(box, new))

        field.committed.connect(commit)
        self.add("Rotation", "rotation", field, lambda item: field.show_value(item.rotation))

    def _tint(self, label: str, name: str) -> None:
        """Beside the colour whose tint it is."""
        field = NumberField(label, "%", 0, 100, 100.0)

        def load(item: Item) -> None:
            paint = getattr(item, name)
            self.show_row(field, paint is not None)
            field.show_value(paint.tint if paint is not None else 1.0)

        def commit(tint: object) -> None:
            item = self.item_now()
            paint = getattr(item, name) if item is not None else None
            if paint is not None:
                self.change(label, **{name: replace(paint, tint=tint)})

        field.committed.connect(commit)
        field.setFixedWidth(66)  # the name of a colour needs the room
        self.row("Tint", field, beside=True)
        self.fields[label] = field
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

    def _text(self, label: str, name: str) -> None:
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

    def _colour(self, label: str, name: str) -> None:
        field = ColourChoice(label, self.session)

        def load(item: Item) -> None:
            paint = getattr(item, name)
            field.show_colours(None if paint is None else paint.colour, "none")

        def commit(colour: object) -> None:
            item = self.item_now()
            before = getattr(item, name) if item is not None else None
            taken = None if colour is None else str(colour)
            painted = filled_with if name == "fill" else stroked_with
            self.change(label, **{name: painted(before, taken)})

        field.committed.connect(commit)
        self.add(label, name, field, load)

    def _stroke_width(self, unit: str) -> None:
        field = LengthField("Stroke width", "pt", 0.01)

        def load(item: Item) -> None:
            self.show_row(field, item.stroke is not None)
            field.show_value(item.stroke.width if item.stroke is not None else 0.0)

        def commit(width: object) -> None:
            item = self.item_now()
            if item is not None and item.stroke is not None:
                new = replace(item.stroke, width=float(width))  # type: ignore[arg-type]
                self.change("Stroke width", stroke=new)

        field.committed.connect(commit)
        self.row("Width", field)
        self.fields["stroke width"] = field
        self.loaders.append(load)

    def _faces(self) -> None:
        field = Choice("Stands on")

        def load(item: Item) -> None:
            placing = "mirrored" if item.face != "both" else item.placing
            field.show_choice(PLACINGS, (item.face, placing))

        def commit(value: object) -> None:
            chosen: tuple[Face, Placing] = value  # type: ignore[assignment]
            self.session.edit(
                "faces", lambda p: set_face(p, self.holder, self.item_id, *chosen, self.side)
            )

        field.committed.connect(commit)
        self.row("Stands on", field)
        self.fields["faces"] = field
        self.loaders.append(load)

    # -- values ----------------------------------------------------------------------

    def item_now(self) -> Item | None:
        return shown_item(self.session.publication, self.holder, self.item_id, self.side)

    def open(self) -> bool:
        return self.session.may_change(self.holder, self.item_id)

    def load(
        self, item: Item, resolved: Resolved, overflow: str, offers: list[Remedy], poor: str
    ) -> None:
        """Shows an item's values, which of them are overridden, and what is wrong."""
        session = self.session
        about = (session.holder_id, session.side, item.id)
        if about != (self.holder, self.side, self.item_id):
            self.holder, self.side, self.item_id = about
            self.say("")
            for field in self.fields.values():
                if isinstance(field, _Typed):
                    field.forget()
        self.points.show_point(self.session.reference)
        allowed = self.open()
        for field in self.fields.values():
            field.setEnabled(allowed)  # type: ignore[attr-defined]
        for loader in self.loaders:
            loader(item)
        for name, button in self.follows.items():
            button.setVisible(name in resolved.overridden)
        if hasattr(self, "all_follow"):
            self.all_follow.setVisible(bool(resolved.overridden))
            self.hide_button.setText("Hide here" if item.visible else SHOW_AGAIN)
            self.here_button.setDisabled(allowed)
            master = masters_by_id(session.publication)[str(resolved.carrier)]
            self.origin.setText(f"From the master “{master.name}”")
        self.arrange.load()
        self.arrange.setEnabled(allowed)
        self.poor.setText(poor)
        self.poor.setVisible(bool(poor))
        if isinstance(item, TextFrame):
            self.overflow.setText(overflow)
            self.overflow.setVisible(bool(overflow))
            self._show_offers(offers if allowed else [])

    def _show_offers(self, offers: list[Remedy]) -> None:
        """A button for each thing that makes the text fit."""
        titles = [offer.title for offer in offers]
        if titles == self._offered:
            return
        self._offered = titles
        while self.offers.count():
            old = self.offers.takeAt(0)
            widget = old.widget() if old is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for offer in offers:
            button = QPushButton(offer.title)
            button.clicked.connect(
                lambda _=False, o=offer: self.change("fit the text", **o.changes)
            )
            self.offers.addWidget(button)

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
            self.session.unlocked.discard((self.holder, self.item_id))
        self.session.edit(
            "follow the master", lambda p: follow(p, self.holder, self.item_id, *names)
        )


def _differing(old: Box, new: Box) -> dict[str, object]:
    """What a new box changes; what arithmetic moves by less than can be seen stays."""
    values = new._asdict()
    return {n: v for n, v in values.items() if abs(v - getattr(old, n)) > 1e-9}
