"""What stands in the strips above the board and the flatplan: search, size, buttons."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QSlider, QToolButton


def strip() -> tuple[QFrame, QHBoxLayout]:
    """An empty strip, and the row that its parts go into."""
    frame = QFrame()
    frame.setObjectName("TextStrip")
    row = QHBoxLayout(frame)
    row.setContentsMargins(12, 5, 12, 5)
    return frame, row


def search_field(
    label: str, hint: str, changed: Callable[[str], object], entered: Callable[[], object]
) -> QLineEdit:
    """A field to search by; `hint` stands in it while it is empty."""
    field = QLineEdit()
    field.setPlaceholderText(hint)
    field.setAccessibleName(label)
    field.setClearButtonEnabled(True)
    field.setMinimumWidth(110)
    field.setMaximumWidth(240)
    field.textChanged.connect(changed)
    field.returnPressed.connect(entered)
    return field


class Slider(QSlider):
    """One that the wheel moves only while it has the focus."""

    def __init__(self, direction: Qt.Orientation) -> None:
        super().__init__(direction)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


def size_slider(
    label: str, low: int, high: int, value: int, changed: Callable[[int], object]
) -> Slider:
    """A slider for the size of what is shown, in pixels."""
    slider = Slider(Qt.Orientation.Horizontal)
    slider.setRange(low, high)
    slider.setValue(value)
    slider.setMinimumWidth(60)  # else only its handle would be left of it
    slider.setMaximumWidth(130)
    slider.setAccessibleName(label)
    slider.setToolTip(f"{label} (Ctrl and the wheel)")
    slider.valueChanged.connect(changed)
    return slider


def text_button(text: str, tip: str, run: Callable[[], object]) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setToolTip(tip)
    button.clicked.connect(lambda _=False: run())
    return button
