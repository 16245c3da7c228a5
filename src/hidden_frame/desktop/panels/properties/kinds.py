"""Rows that only some kinds of item have: text, picture, shape; and text around an item."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox, QMenu, QPushButton, QVBoxLayout

from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.fields.fields import (
    Choice,
    InsetField,
    LengthField,
    NumberField,
)
from hidden_frame.desktop.fields.item_rows import ItemRows
from hidden_frame.desktop.panels.properties.worn import add_worn
from hidden_frame.desktop.state.choices import place_picture
from hidden_frame.interact.hands.cropping import crop_of, picture_of, rescaled
from hidden_frame.interact.hands.styling import put_style, styles_shown
from hidden_frame.interact.words.told import resolution_in_words
from hidden_frame.model.items import (
    Around,
    Item,
    Line,
    PictureFrame,
    Shape,
    TextFrame,
)
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.model.units import Unit, round_distance

MAIN: list[tuple[str, object]] = [
    ("its own or a linked text", 0), ("its section’s story", 1), ("the story, second frame", 2),
    ("the story, third frame", 3),
]  # fmt: skip
_SAME = "the same picture"
FITS: list[tuple[str, object]] = [
    ("whole picture", "fit"), ("fills the frame", "fill"), ("actual size", "actual"),
    ("free crop", "free"), ("stretched", "stretch"),
]  # fmt: skip


def add_kind_rows(form: ItemRows, item: Item, unit: Unit, inherited: bool) -> None:
    """What only this kind of item has; of an `inherited` one, what can be changed here at once
    stands first."""
    handled(item).rows(form, unit, inherited)


def _frame_rows(form: ItemRows, unit: Unit, inherited: bool) -> None:
    if inherited:
        add_worn(form)
    _text_rows(form, unit)
    if not inherited:
        add_worn(form)


def _shape_rows(form: ItemRows, unit: Unit, inherited: bool) -> None:
    form.heading("SHAPE")
    form.choice("Form", "form", lambda _: _same("rectangle", "rounded", "ellipse"))
    _radius(form, unit)


class Handled(NamedTuple):
    """A kind of items as the panels have it: its name, its icon in lists, and the rows of
    Properties that only it has."""

    title: str
    icon: str
    rows: Callable[[ItemRows, Unit, bool], None] = lambda form, unit, inherited: None


HANDLED: dict[type, Handled] = {
    TextFrame: Handled("Text frame", "ph.text-t", _frame_rows),
    PictureFrame: Handled(
        "Picture frame", "ph.image", lambda form, unit, inherited: _picture_rows(form, unit)
    ),
    Shape: Handled("Shape", "ph.polygon", _shape_rows),
    Line: Handled("Line", "ph.line-segment"),
}


def handled(item: Item) -> Handled:
    """How a kind of items is worked on by hand."""
    return HANDLED[type(item)]


def _same(*words: str) -> list[tuple[str, object]]:
    return [(word, word) for word in words]


def _radius(form: ItemRows, unit: Unit, beside: bool = False) -> None:
    field = LengthField("Corner radius", unit, 0.0)
    form.typed("Corners", "radius", field, field.show_value, beside)


def _text_rows(form: ItemRows, unit: Unit) -> None:
    form.heading("TEXT")
    _paragraph_style(form)
    form.choice("Vertical", "vertical", lambda _: _same("top", "middle", "bottom"))
    columns = NumberField("Columns", "", 1, 20)
    columns.whole = True
    form.typed("Columns", "columns", columns, columns.show_value)
    gutter = LengthField("Gutter", unit, 0.0)
    form.typed("Gutter", "gutter", gutter, gutter.show_value, beside=True)
    inset = InsetField("Inset", unit)
    form.typed("Inset", "inset", inset, inset.show_value)
    _radius(form, unit, beside=True)
    form.check("Grows with its text", "grows")
    form.check("First line at the top", "snug")
    form.check("Wraps around items", "yields")
    form.choice("Shows", "main", _shows)
    form.story = form.note()
    form.overflow = form.note()
    form.overflow.setObjectName("Error")
    form.offers = QVBoxLayout()
    form.column.addLayout(form.offers)


def _shows(publication: Publication) -> list[tuple[str, object]]:
    """What a text frame may show: as many main frames as there are, and three at least."""
    items = (i for m in publication.masters for i in m.items)
    most = max((i.main for i in items if isinstance(i, TextFrame)), default=0)
    return [*MAIN, *((f"the story, frame {n}", n) for n in range(len(MAIN), most + 1))]


def _paragraph_style(form: ItemRows) -> None:
    field = Choice("Style")
    field.setPlaceholderText("several")

    def load(item: Item) -> None:
        session = form.session
        styles = styles_shown(session.composition, form.holder, form.side, (item.id,))
        options = [(s.name, s.id) for s in session.publication.paragraph_styles]
        field.show_choice(options, styles.pop() if len(styles) == 1 else None)

    def commit(style: object) -> None:
        session, item = form.session, form.item_now()
        if item is None:
            return
        made = put_style(session.composition, form.holder, form.side, (item.id,), str(style))
        session.edit("paragraph style", lambda _: made)

    field.committed.connect(commit)
    form.add("Style", "text", field, load)


def _picture_rows(form: ItemRows, unit: Unit) -> None:
    form.heading("PICTURE")
    button = QPushButton("Choose…")
    button.setAccessibleName("Choose a picture")

    def load(item: Item) -> None:
        picture = _picture(form, item)
        button.setText((picture.name if picture else "") or "Choose…")

    button.clicked.connect(lambda: _choose(form))
    form.add("Picture", "picture", button, load)
    _dark_row(form)
    _fit_row(form)
    _crop_row(form, "Scale", NumberField("Scale", "%", 1, 10_000, 100.0))
    _crop_row(form, "Picture X", LengthField("Picture X", unit))
    _crop_row(form, "Picture Y", LengthField("Picture Y", unit))
    note = form.note()

    def tell(item: Item) -> None:
        note.setText(resolution_in_words(_picture(form, item), item))

    form.loaders.append(tell)
    form.resolution = note
    _radius(form, unit)


def _fit_row(form: ItemRows) -> None:
    """How the picture lies in its frame; a free crop begins where it lies now."""
    field = Choice("Fit")

    def load(item: Item) -> None:
        assert isinstance(item, PictureFrame)
        field.show_choice(FITS, item.fit)

    def commit(fit: object) -> None:
        item = form.item_now()
        picture = _picture(form, item)
        if fit == "free" and picture is not None and isinstance(item, PictureFrame):
            form.change("fit", fit=fit, crop=crop_of(item, picture))
        else:
            form.change("fit", fit=fit)

    field.committed.connect(commit)
    form.add("Fit", "fit", field, load)


def _picture(form: ItemRows, item: Item | None) -> Picture | None:
    return picture_of(form.session.publication, item)


def _dark_row(form: ItemRows) -> None:
    """The picture that is shown where what lies beneath is dark, as a logo in white."""
    button = QPushButton(_SAME)
    button.setAccessibleName("Picture on dark ground")
    button.setToolTip("Shown instead wherever it stands out better against what is printed beneath")

    def load(item: Item) -> None:
        assert isinstance(item, PictureFrame)
        known = {p.hash: p.name or "picture" for p in form.session.publication.pictures}
        button.setText(known.get(item.picture_on_dark or "", _SAME))

    def choose() -> None:
        for path in PictureDialog.ask(form, "Choose the picture for dark ground"):
            place_picture(form.session, path, "picture_on_dark")

    def clicked() -> None:
        item = form.item_now()
        if not isinstance(item, PictureFrame) or item.picture_on_dark is None:
            choose()
            return
        menu = QMenu(button)
        menu.addAction("Choose another…", choose)
        menu.addAction("The same picture everywhere", lambda: form.change(
            "picture on dark ground", picture_on_dark=None))  # fmt: skip
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    button.clicked.connect(clicked)
    form.add("On dark", "picture_on_dark", button, load)


def _choose(form: ItemRows) -> None:
    for path in PictureDialog.ask(form, "Choose a picture"):
        place_picture(form.session, path)


def _crop_row(form: ItemRows, label: str, field: NumberField | LengthField) -> None:
    """The scale or place of a picture in its frame; a typed value makes the crop free."""

    def load(item: Item) -> None:
        picture = _picture(form, item)
        field.setEnabled(picture is not None and form.open())
        if picture is None:
            field.show_text("")
            return
        assert isinstance(item, PictureFrame)
        crop = crop_of(item, picture)
        field.show_value({"Scale": crop.scale, "Picture X": crop.x, "Picture Y": crop.y}[label])

    def commit(value: object) -> None:
        item = form.item_now()
        picture = _picture(form, item)
        if picture is None or not isinstance(item, PictureFrame):
            return
        crop, number = crop_of(item, picture), float(value)  # type: ignore[arg-type]
        if label == "Scale":
            crop = rescaled(crop, number, (item.width / 2, item.height / 2))
        else:
            crop = replace(crop, **{"x" if label == "Picture X" else "y": number})
        form.change("crop", fit="free", crop=crop)

    field.committed.connect(commit)
    button = form.row(label.removeprefix("Picture "), field, beside=label == "Picture Y")
    button.clicked.connect(lambda: form.follow_again("crop", "fit"))
    if label == "Scale":
        form.follows["crop"] = button
    form.fields[label] = field
    form.loaders.append(load)


def add_around(form: ItemRows, unit: Unit) -> None:
    """Whether text runs around the item, and at what distance."""
    form.heading("TEXT WRAP")
    field = Choice("Wrap")
    options: list[tuple[str, object]] = [
        ("none", None), ("around its box", "box"),
        ("around its shape", "shape"),
    ]  # fmt: skip
    outline = ("around what is visible of it", "outline")
    both = QCheckBox("On both sides")
    both.setToolTip("Text runs on both sides of it; otherwise only on the wider side")
    offset = LengthField("Distance", unit, 0.0)

    def load(item: Item) -> None:
        around = item.around
        more = [outline] if isinstance(item, PictureFrame) else []
        field.show_choice([*options, *more], around.shape if around is not None else None)
        form.show_row(both, around is not None)
        both.setEnabled(form.open())
        both.setChecked(around is not None and around.both)
        form.show_row(offset, around is not None)
        offset.setEnabled(form.open())
        offset.show_value(around.offset if around is not None else 0.0)

    def commit(shape: object) -> None:
        item = form.item_now()
        if item is None:
            return
        unit = form.session.publication.setup.unit
        before = item.around or Around(offset=round_distance(unit))
        around = None if shape is None else replace(before, shape=shape)
        form.change("text around", around=around)

    def commit_offset(distance: object) -> None:
        item = form.item_now()
        if item is not None and item.around is not None:
            form.change("text around", around=replace(item.around, offset=distance))

    def commit_both(on: bool) -> None:
        item = form.item_now()
        if item is not None and item.around is not None:
            form.change("text around", around=replace(item.around, both=on))

    field.committed.connect(commit)
    offset.committed.connect(commit_offset)
    both.clicked.connect(commit_both)
    form.add("Wrap", "around", field, load)
    form.row("Distance", offset)
    form.row("", both)
    form.fields["distance"] = offset
