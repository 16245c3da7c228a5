"""The bar over a publication whose file was not closed normally: what is to become of the work."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from hidden_frame.desktop.look.fitting import ShortLabel
from hidden_frame.desktop.look.moments import moment
from hidden_frame.model.number_format import grouped
from hidden_frame.storage.recovery import Left


class LeftBar(QFrame):
    """Stays until something is chosen; `go_on`, `compare` and `leave` are what can be."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("LeftBar")
        self.left: Left | None = None
        self.go_on: Callable[[Left], object] = lambda _: None
        self.compare: Callable[[Left], object] = lambda _: None
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 7, 12, 7)
        self.label = ShortLabel()
        row.addWidget(self.label, 1)
        self.buttons: dict[str, QPushButton] = {}
        for words, tip, run in (
            ("Not now", "Keep the file as it is; Publication › Recover unsaved work… still has it",
             self.leave),
            ("Compare…", "Compare with the file, page by page", self._compare),
            ("Recover it", "As one step; Undo returns to the file as it is", self._go_on),
        ):  # fmt: skip
            button = QPushButton(words)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, run=run: run())
            row.addWidget(button)
            self.buttons[words] = button
        self.buttons["Recover it"].setDefault(True)
        self.hide()

    def offer(self, left: Left) -> None:
        """Shows what was left, and asks."""
        self.left, about = left, left.about
        steps = "1 step" if about.steps == 1 else f"{grouped(about.steps)} steps"
        self.label.setText(
            f"This was not closed normally: {steps} more were kept, the last at "
            f"{moment(about.when)}."
        )
        self.show()

    def leave(self) -> None:
        """The file stays as it is, and so does the work, until somebody asks for it."""
        self.left = None
        self.hide()

    def _compare(self) -> None:
        if self.left is not None:
            self.compare(self.left)

    def _go_on(self) -> None:
        if self.left is not None:
            self.go_on(self.left)
