"""A colour made or changed: by shares, by its web name, mixed of two others, or picked."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QWidget

from hidden_frame.compose.contrast import READABLE
from hidden_frame.compose.ground import contrast, rgb
from hidden_frame.compose.palette import ink
from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, NumberField, TextField
from hidden_frame.desktop.fields.swatches import Swatches
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.strip import Slider
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.looks.colours import (
    Space,
    add_colour,
    change_colour,
    delete_colour,
    in_cmyk,
    in_rgb,
    mixed,
    uses,
)
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import decimal
from hidden_frame.model.paint import Colour
from hidden_frame.model.publication import Publication

SPACES: tuple[tuple[str, Space], ...] = (
    ("RGB, for screens", "rgb"),
    ("CMYK, for process printing", "cmyk"),
    ("Spot, an ink of its own", "spot"),
)
_LABELS = {"rgb": ("Red", "Green", "Blue"), "cmyk": ("Cyan", "Magenta", "Yellow", "Black")}
_LABELS["spot"] = _LABELS["cmyk"]


class ShareRow(QWidget):
    """A slider and a field for one share, 0 to `most`."""

    def __init__(self, dialog: ColourDialog) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.slider = Slider(Qt.Orientation.Horizontal)
        self.field = NumberField("Share", "", 0, 255)
        self.field.setFixedWidth(64)
        row.addWidget(self.slider, 1)
        row.addWidget(self.field)
        self.slider.valueChanged.connect(self._slid)
        self.field.committed.connect(self._typed)
        self.field.refused.connect(dialog.form.say)
        self.dialog = dialog
        self.most = 255
        self.value = 0.0
        self._quiet = False

    def set_up(self, label: str, most: int, value: float) -> None:
        self.most = most
        self._quiet = True
        self.slider.setRange(0, most)
        self.slider.setAccessibleName(label)
        self.field.setAccessibleName(f"{label} share")
        self.field.high, self.field.scale = most, 1.0
        self._quiet = False
        self.show_value(value)

    def show_value(self, value: float) -> None:
        """A share of 0 to 1."""
        self.value = value
        self._quiet = True
        self.slider.setValue(round(value * self.most))
        self.field.show_value(round(value * self.most, 1))
        self._quiet = False

    def _slid(self, number: int) -> None:
        if not self._quiet:
            self.value = number / self.most
            self.field.show_value(number)
            self.dialog.changed()

    def _typed(self, number: object) -> None:
        self.show_value(float(number) / self.most)  # type: ignore[arg-type]
        self.dialog.changed()


class Sample(QWidget):
    """The colour on paper, in steps of tint, with words in black and white on it."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(300, 64)
        self._colour = Colour(id="", name="")

    def show_colour(self, colour: Colour) -> None:
        self._colour = colour
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = self.width() / 2
        painter.setPen(QPen(QColor(theme.current().line), 1))
        painter.setBrush(QColor.fromRgbF(*rgb(ink(self._colour))))
        painter.drawRect(QRectF(0.5, 0.5, wide, self.height() - 1))
        for n, tint in enumerate((0.75, 0.5, 0.25, 0.1)):
            painter.setBrush(QColor.fromRgbF(*rgb(ink(self._colour, tint))))
            x = wide + n * wide / 4
            painter.drawRect(QRectF(x, 0.5, wide / 4 - 1, self.height() - 1))
        half = QRectF(0, 0, wide, self.height() / 2)
        painter.setPen(QColor("#FFFFFF"))
        painter.drawText(half, Qt.AlignmentFlag.AlignCenter, "white on it")
        painter.setPen(QColor("#000000"))
        painter.drawText(
            half.translated(0, self.height() / 2), Qt.AlignmentFlag.AlignCenter, "black on it"
        )


class ColourDialog(Question):
    """`colour` None makes a new one, whose id `made` holds then.  The desk shows the change
    while one chooses; without a desk nothing can be picked on it."""

    aside = True

    def __init__(
        self,
        session: Session,
        desk: Desk | None,
        colour: Colour | None,
        parent: QWidget | None = None,
    ) -> None:
        title = "New colour" if colour is None else f"Colour {colour.name}"
        super().__init__(parent, title, "Create" if colour is None else "Change everywhere")
        self.session, self.desk, self.before = session, desk, colour
        self.made = ""
        start = colour or Colour(id="", name="Colour", values=(0.2, 0.45, 0.55))
        self.name = TextField("Name")
        self.name.setText(start.name)
        self.form.row("Name", self.name)
        self.space = Choice("Kind")
        self.space.show_choice(SPACES, start.space)
        self.space.committed.connect(self._take_space)
        self.form.row("Kind", self.space)
        self.rows = [ShareRow(self) for _ in range(4)]
        self.labels = []
        for row in self.rows:
            self.form.row("Share", row)
            assert self.form.grid is not None
            at = self.form.grid.rowCount() - 1
            item = self.form.grid.itemAtPosition(at, 0)
            assert item is not None
            self.labels.append(item.widget())
        self.web = TextField("Web")
        self.web.committed.connect(self._take_web)
        self.form.row("Web", self.web)
        self.form.heading("MIX OR PICK")
        self.one, self.other = Swatches("Mix of"), Swatches("and")
        colours = session.publication.colours
        self.one.show_swatches(colours, colours[0].id)
        self.other.show_swatches(colours, colours[-1].id)
        self.form.row("Mix of", self.one)
        self.form.row("and", self.other)
        self.share = NumberField("Share of the second colour", "%", 0, 100, 100.0)
        self.share.show_value(0.5)
        self.form.row("Share of the second colour", self.share)
        mix, pick = self.form.buttons("Mix", "Pick from the desk")
        mix.clicked.connect(self._mix)
        pick.clicked.connect(self._pick)
        self.mix, self.pick = mix, pick
        pick.setVisible(desk is not None)
        self.sample = Sample()
        self.form.column.addSpacing(6)
        self.form.column.addWidget(self.sample)
        self.tells = self.form.note()
        self.rejected.connect(self._give_up)
        self._show(start.space, start.values)
        self.finish()

    # -- values ----------------------------------------------------------------------

    def _space(self) -> Space:
        return SPACES[self.space.currentIndex()][1]

    def values(self) -> tuple[float, ...]:
        return tuple(row.value for row in self.rows[: len(_LABELS[self._space()])])

    def _show(self, space: Space, values: tuple[float, ...]) -> None:
        self.space.show_choice(SPACES, space)
        most = 255 if space == "rgb" else 100
        names = _LABELS[space]
        for n, (row, label) in enumerate(zip(self.rows, self.labels, strict=True)):
            shown = n < len(names)
            row.setVisible(shown)
            label.setVisible(shown)
            if shown:
                label.setText(names[n])  # type: ignore[attr-defined]
                row.set_up(names[n], most, values[n])
        self.changed()

    def _take_space(self, space: object) -> None:
        """The same colour in another kind."""
        old = Colour(id="", name="", space=self._old_space, values=self._old_values)
        values = in_rgb(old) if space == "rgb" else in_cmyk(old)
        self._show(space, values)  # type: ignore[arg-type]

    def changed(self) -> None:
        """Shows the colour as it is now, here and on the desk."""
        self._old_space, self._old_values = self._space(), self.values()
        now = Colour(id="", name="", space=self._old_space, values=self._old_values)
        red, green, blue = in_rgb(now)
        self.sample.show_colour(now)
        self.web.show_text(QColor.fromRgbF(red, green, blue).name())
        ratio = contrast((red, green, blue), (1.0, 1.0, 1.0))
        verdict = "reads well" if ratio >= READABLE else "is hard to read in small sizes"
        self.tells.setText(
            f"Contrast to white paper {decimal(ratio, 1, trimmed=False)} : 1; as text it {verdict}."
        )
        if self.before is not None:
            before, values = self.before, self._old_values
            draft = Colour(id=before.id, name=before.name, space=self._old_space, values=values)
            self.session.set_draft(change_colour(self.session.history.now, draft))

    def _take_web(self, text: object) -> None:
        colour = QColor(str(text).strip())
        if not colour.isValid():
            self.form.say(f"“{text}” is not a colour; write it as #1f6f5c.")
            return
        self.form.say("")
        shares = (colour.redF(), colour.greenF(), colour.blueF())
        made = Colour(id="", name="", values=shares)
        space = self._space()
        self._show(space, shares if space == "rgb" else in_cmyk(made))

    def _mix(self) -> None:
        colours = self.session.publication.colours
        one = colours[self.one.currentIndex()]
        other = colours[self.other.currentIndex()]
        try:
            share = self.share.read()
        except Refusal as refusal:
            self.form.say(refusal)
            return
        self._show(*mixed(one, other, share))

    def _pick(self) -> None:
        """Takes the colour under the next click on the desk."""
        assert self.desk is not None
        self.hide()
        self.desk.ask_for_point(self._picked, self.open)
        self.session.noticed.emit("Click the colour to take; Escape goes back.")

    def _picked(self, spot: Spot, point: QPointF) -> None:
        assert self.desk is not None
        image = self.desk.grab().toImage()
        ratio = image.devicePixelRatio()
        colour = image.pixelColor(round(point.x() * ratio), round(point.y() * ratio))
        self._take_web(colour.name())
        self.open()

    # -- answers ---------------------------------------------------------------------

    def _give_up(self) -> None:
        self.session.set_draft(None)

    def answer(self) -> None:
        name, space, values = self.name.text(), self._space(), self.values()
        now = self.session.history.now
        if self.before is None:
            add_colour(now, name, space, values)  # raises what is wrong with it
            self.session.edit("new colour", lambda p: self._added(p, name, space, values))
            return
        colour = Colour(id=self.before.id, name=name, space=space, values=values)
        change_colour(now, colour)
        self.session.edit(f"change colour {name}", lambda p: change_colour(p, colour))
        self.session.set_draft(None)

    def _added(
        self, publication: Publication, name: str, space: Space, values: tuple[float, ...]
    ) -> Publication:
        publication, self.made = add_colour(publication, name, space, values)
        return publication


class DeleteColourDialog(EditQuestion):
    """What shall take the place of a colour that is in use."""

    def __init__(self, session: Session, colour: Colour, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, f"Delete the colour {colour.name}", "Delete")
        self.colour = colour
        count = uses(session.publication, colour.id)
        places = "1 place uses it" if count == 1 else f"{count} places use it"
        self.form.note(f"{places}. Which colour should replace it?")
        self.instead = Swatches("Instead")
        others = [c for c in session.publication.colours if c.id != colour.id]
        self.instead.show_swatches(others, others[0].id)
        self.form.row("Instead", self.instead)
        self.finish()

    def answer(self) -> None:
        instead = str(self.instead.value())

        def change(p: Publication) -> Publication:
            return delete_colour(p, self.colour.id, instead)

        self.edit(f"delete colour {self.colour.name}", change)
