"""A dialog with a form, a sentence for bad input, and two buttons."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QHBoxLayout, QVBoxLayout, QWidget

from hidden_frame.desktop.properties.form import Form
from hidden_frame.model.errors import Refusal


class Question(QDialog):
    """Subclasses add rows to `form` and answer in `answer`, which may refuse."""

    def __init__(self, parent: QWidget | None, title: str, action: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.column = QVBoxLayout(self)
        self.form = Form()
        self.form.title(title)
        self.forms = QHBoxLayout()
        self.forms.addWidget(self.form)
        self.column.addLayout(self.forms)
        self.box = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.ok = self.box.addButton(action, QDialogButtonBox.ButtonRole.AcceptRole)
        self.ok.setDefault(True)
        self.box.accepted.connect(self._accept)
        self.box.rejected.connect(self.reject)

    def beside(self) -> Form:
        """A second column of rows, where one would be too high for the screen."""
        form = Form()
        self.forms.addWidget(form)
        form.column.setAlignment(Qt.AlignmentFlag.AlignTop)
        return form

    def finish(self) -> None:
        """To be called once all rows are there."""
        self.form.end()
        self.column.addWidget(self.box)

    def answer(self) -> None:
        """Does what was asked for; raises `Refusal` to keep the dialog open."""

    def _accept(self) -> None:
        try:
            self.answer()
        except Refusal as refusal:
            self.form.say(str(refusal))
            return
        self.accept()
