"""Fields that show one property and hand back what was typed, or a sentence why not."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import QEvent, QSize, Qt, Signal
from PySide6.QtGui import (
    QFocusEvent,
    QHelpEvent,
    QKeyEvent,
    QPaintEvent,
    QPalette,
    QResizeEvent,
    QStandardItemModel,
    QWheelEvent,
)
from PySide6.QtWidgets import (
    QComboBox,
    QLineEdit,
    QStyle,
    QStyleOptionComboBox,
    QStyleOptionFrame,
    QStylePainter,
    QToolTip,
)

from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Insets
from hidden_frame.model.number_format import decimal, figure, number_of
from hidden_frame.model.units import Unit, format_length, parse_length, short_length

_EDGES = 5  # pixels that a line edit keeps free beside its text
_WIDEST = 230  # pixels of words that a list asks room for


class Typed(QLineEdit):
    """Commits on Enter or when left, and only if the text was changed; Escape restores."""

    committed = Signal(object)
    refused = Signal(str)

    def __init__(self, label: str) -> None:
        super().__init__()
        self.setAccessibleName(label)
        self._shown = ""
        self._stood = ""  # what Escape goes back to
        self.editingFinished.connect(self._commit)

    def show_text(self, text: str) -> None:
        if self.hasFocus() and self.isModified() and text == self._shown:
            return
        self._shown = self._stood = text
        self._mark(False)
        if self.text() != text:
            self.setText(text)
        self.setModified(False)
        self.setCursorPosition(0)

    def forget(self) -> None:
        """What was typed and not kept belongs to another thing from now on: it is dropped."""
        self._shown = "\0"
        self.setModified(False)

    def parse(self, text: str) -> Any:
        """What is typed as a value; raises `Refusal`."""
        return text

    def read(self) -> Any:
        """What stands here as a value; what can't be read is refused as this field's."""
        try:
            return self.parse(self.text())
        except Refusal as refusal:
            raise self.refusal(str(refusal)) from refusal

    def refusal(self, sentence: str) -> Refusal:
        """A refusal of what stands here."""
        return Refusal(sentence, field=self.accessibleName())

    def _commit(self) -> None:
        if self.text() == self._shown:
            self._mark(False)
            return
        try:
            value = self.parse(self.text())
        except Refusal as refusal:
            self._mark(True)
            self.refused.emit(str(refusal))
            return
        self._mark(False)
        self.refused.emit("")
        self._shown = self._stood = self.text()
        self.committed.emit(value)

    def _mark(self, wrong: bool) -> None:
        if bool(self.property("wrong")) != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)
            self.style().polish(self)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """What stands in a dialog's field as it is entered is what Escape goes back to."""
        if not self.isModified():
            self._stood = self.text()
        super().focusInEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.text() != self._stood:
            self.setText(self._stood)
            self._mark(False)
            self.refused.emit("")
            return
        super().keyPressEvent(event)


class TextField(Typed):
    """Plain text."""


class LengthField(Typed):
    """A length in any unit, or a sum of lengths; points inside."""

    def __init__(
        self, label: str, unit: Unit, minimum: float | None = None, maximum: float | None = None
    ) -> None:
        super().__init__(label)
        self.unit: Unit = unit
        self.minimum = minimum
        self.maximum = maximum
        self._points: float | None = None
        self._rounded = ""  # how that was shown
        self.above = False  # whether the least value itself is refused
        self.setToolTip(f"{label}: mm, cm, in, pt, p, px, or a sum such as 12mm + 3pt")

    def show_value(self, points: float) -> None:
        self._points = points
        self._show_exactly(self._fitting(points))

    def _show_exactly(self, text: str) -> None:
        self.show_text(text)
        if self.text() == text:
            self._rounded = text

    def _fitting(self, points: float) -> str:
        """The length, without its unit where that has no room: digits are never cut."""
        text = short_length(points, self.unit)
        option = QStyleOptionFrame()
        self.initStyleOption(option)
        room = self.style().subElementRect(QStyle.SubElement.SE_LineEditContents, option, self)
        fits = self.fontMetrics().horizontalAdvance(text) + _EDGES <= room.width()
        return text if fits else short_length(points, self.unit, with_unit=False)

    def length(self) -> float | None:
        """The length, in points: to the last digit what was shown, if nothing else was typed.
        Raises the refusal of what can't be read."""
        untouched = self._points is not None and self.text() == self._rounded
        return self._points if untouched else self.read()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self._points is not None and not self.isModified():
            self._show_exactly(self._fitting(self._points))

    def parse(self, text: str) -> float:
        value = parse_length(text, self.unit)
        if self.minimum is not None and self.above and value <= self.minimum:
            raise Refusal(
                f"{self.accessibleName()} “{text.strip()}” is not a size; enter more than 0."
            )
        if self.minimum is not None and value < self.minimum:
            least = format_length(self.minimum, self.unit)
            raise Refusal(f"{self.accessibleName()} must be at least {least}.")
        if self.maximum is not None and value > self.maximum:
            most = format_length(self.maximum, self.unit)
            raise Refusal(f"{self.accessibleName()} must be at most {most}.")
        return value


class NumberField(Typed):
    """A number with a sign behind it (°, %), `scale` being one unit of the model."""

    def __init__(self, label: str, sign: str, low: float, high: float, scale: float = 1.0) -> None:
        super().__init__(label)
        self.sign, self.low, self.high, self.scale = sign, low, high, scale
        self.whole = False  # whether only whole numbers are meant

    def show_value(self, value: float) -> None:
        number = decimal(value * self.scale, 3)
        self.show_text(f"{number} {self.sign}".strip())

    def parse(self, text: str) -> float:
        digits = text.replace(self.sign, "") if self.sign else text
        try:
            value = number_of(digits)
        except ValueError as error:
            raise Refusal(f"“{text}” is not a number; {self._range()}.") from error
        if not self.low <= value <= self.high:
            raise Refusal(
                f"{self.accessibleName()} {figure(value)} is out of range; {self._range()}."
            )
        if self.whole:
            if value != int(value):
                raise Refusal(f"{self.accessibleName()} {figure(value)} is not a whole number.")
            return int(value)
        return value / self.scale

    def _range(self) -> str:
        return f"give one from {figure(self.low)} to {figure(self.high)}"


class InsetField(Typed):
    """One length for all four sides of a text frame, or four: top / right / bottom / left."""

    def __init__(self, label: str, unit: Unit) -> None:
        super().__init__(label)
        self.unit: Unit = unit
        self.setToolTip("One length, or four: top / right / bottom / left")

    def show_value(self, inset: float | Insets) -> None:
        if isinstance(inset, Insets):
            four = (inset.top, inset.right, inset.bottom, inset.left)
            self.show_text(" / ".join(short_length(v, self.unit) for v in four))
        else:
            self.show_text(short_length(inset, self.unit))

    def parse(self, text: str) -> float | Insets:
        values = [parse_length(part, self.unit) for part in text.split("/")]
        if len(values) not in (1, 4):
            raise Refusal("Give one inset for all sides, or four: top / right / bottom / left.")
        if min(values) < 0:
            raise Refusal("An inset can't be negative; give 0 or more.")
        if len(values) == 1:
            return values[0]
        top, right, bottom, left = values
        return Insets(top=top, right=right, bottom=bottom, left=left)


class DashField(Typed):
    """Drawn and left-out lengths in turn, in points; empty for an unbroken line."""

    def __init__(self, label: str) -> None:
        super().__init__(label)
        self.setPlaceholderText("unbroken")
        self.setToolTip("Dash and gap lengths in points, alternating: 6 3")

    def show_value(self, dash: tuple[float, ...]) -> None:
        self.show_text(" ".join(figure(v) for v in dash))

    def parse(self, text: str) -> tuple[float, ...]:
        parts = text.replace("pt", " ").replace(";", " ").split()
        try:
            dash = tuple(number_of(part) for part in parts)
        except ValueError as error:
            raise Refusal(
                f"“{text}” is not a dash; enter lengths in points such as 6 3."
            ) from error
        if len(dash) > 12 or any(not 0 <= v < 1000 for v in dash) or (dash and not any(dash)):
            raise Refusal(f"“{text}” is not a dash; enter up to twelve lengths, not all of them 0.")
        return dash


class Choice(QComboBox):
    """One of several values, shown by name."""

    committed = Signal(object)

    def __init__(self, label: str) -> None:
        super().__init__()
        self.setAccessibleName(label)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(4)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._values: list[object] = []
        self.activated.connect(self.take)

    def take(self, number: int) -> None:
        """Tells that an entry was chosen."""
        self.committed.emit(self._values[number])

    def wheelEvent(self, event: QWheelEvent) -> None:
        """A list that slides under the pointer keeps its value; the panel scrolls on."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()

    def sizeHint(self) -> QSize:
        """As wide as its longest entry, within reason; it can do with less."""
        hint = super().sizeHint()
        words = self.fontMetrics()
        longest = max((words.horizontalAdvance(self.itemText(n)) for n in range(self.count())),
                      default=0)  # fmt: skip
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        picture = self.iconSize().width() + 4 if self._pictured() else 0
        kind = QStyle.ContentsType.CT_ComboBox
        inside = QSize(min(longest, _WIDEST) + picture + 6, hint.height())
        wanted = self.style().sizeFromContents(kind, option, inside, self).width()
        return QSize(max(hint.width(), wanted), hint.height())

    def minimumSizeHint(self) -> QSize:
        """A few letters wide: in a narrow panel, words end in “…”."""
        return super().sizeHint()

    def _pictured(self) -> bool:
        return any(not self.itemIcon(n).isNull() for n in range(self.count()))

    def room(self) -> int:
        """Pixels for the words of an entry while the list is closed."""
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        part = QStyle.SubControl.SC_ComboBoxEditField
        control = QStyle.ComplexControl.CC_ComboBox
        field = self.style().subControlRect(control, option, part, self)
        picture = 0 if self.itemIcon(self.currentIndex()).isNull() else self.iconSize().width() + 4
        return field.width() - picture - 2

    def is_cut(self) -> bool:
        """Whether there is too little room for the chosen entry."""
        return self.fontMetrics().horizontalAdvance(self.currentText()) > self.room()

    def paintEvent(self, _: QPaintEvent) -> None:
        """Words that are too long end in “…”."""
        painter = QStylePainter(self)
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        painter.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        if self.currentIndex() < 0:
            option.currentText = self.placeholderText()  # type: ignore[attr-defined]
            quiet = self.palette().color(QPalette.ColorRole.PlaceholderText)
            option.palette.setColor(QPalette.ColorRole.ButtonText, quiet)  # type: ignore[attr-defined]
            option.palette.setColor(QPalette.ColorRole.Text, quiet)  # type: ignore[attr-defined]
        elif self.is_cut():
            short = self.fontMetrics().elidedText(
                self.currentText(), Qt.TextElideMode.ElideRight, self.room()
            )
            option.currentText = short  # type: ignore[attr-defined]
        painter.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)

    def event(self, event: QEvent) -> bool:
        """The tooltip begins with the whole entry where it is cut."""
        if isinstance(event, QHelpEvent) and self.is_cut():
            told = "\n".join(t for t in (self.currentText(), self.toolTip()) if t)
            QToolTip.showText(event.globalPos(), told, self)
            return True
        return super().event(event)

    def show_choice(self, options: Sequence[tuple[str, object]], value: object) -> None:
        self._values = [v for _, v in options]
        labels = [label for label, _ in options]
        if labels != [self.itemText(n) for n in range(self.count())]:
            self.clear()
            self.addItems(labels)
            self.updateGeometry()
        self.setCurrentIndex(self._values.index(value) if value in self._values else -1)

    def value(self) -> object:
        """What is chosen now."""
        at = self.currentIndex()
        return self._values[at] if 0 <= at < len(self._values) else None

    def close_off(self, reasons: Mapping[str, str]) -> None:
        """Values that can be seen but not chosen, each with the reason as its tooltip."""
        model = self.model()
        assert isinstance(model, QStandardItemModel)
        for number, value in enumerate(self._values):
            reason = reasons.get(str(value))
            row = model.item(number)
            if row is not None and row.isEnabled() == (reason is not None):
                row.setEnabled(reason is None)
            if reason:
                self.setItemData(number, reason, Qt.ItemDataRole.ToolTipRole)
