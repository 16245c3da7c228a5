"""A dialog with a form, a sentence for bad input, and two buttons."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QHBoxLayout, QVBoxLayout, QWidget

from hidden_frame.desktop.fields.form import Form
from hidden_frame.model.errors import Refusal

_LEAST, _MOST = 330, 520  # pixels that a form is wide
_EDGE, _BARS = 10, 92  # pixels: from the window's edge, and below its bars


class Question(QDialog):
    """Subclasses add rows to `form` and answer in `answer`, which may refuse.

    One that shows on the desk what would come of it opens `aside`, over Properties, so that it
    does not cover what it shows.
    """

    aside = False

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
        self.box.button(QDialogButtonBox.StandardButton.Cancel).setAutoDefault(False)
        self.box.accepted.connect(self._accept)
        self.box.rejected.connect(self.reject)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not event.spontaneous():
            self._take_room()
        window = self.parentWidget()
        if self.aside and window is not None and not event.spontaneous():
            free = self.screen().availableGeometry()
            around = window.window().frameGeometry()
            corner = around.topRight() - QPoint(self.width() + _EDGE, -_BARS)
            left = max(free.left(), min(corner.x(), free.right() - self.width() - _EDGE))
            top = max(free.top(), min(corner.y(), free.bottom() - self.height() - _BARS // 2))
            self.move(left, top)

    def _take_room(self) -> None:
        """As high as its rows need, where the screen has room: left to itself a dialog takes two
        thirds of the screen at most, and cuts the words in its fields instead."""
        most = self.screen().availableGeometry().height() - _BARS // 2
        self.resize(self.width(), max(self.height(), min(self.sizeHint().height(), most)))

    def beside(self) -> Form:
        """A second column of rows, where one would be too high for the screen."""
        form = Form()
        self.forms.addWidget(form)
        form.column.setAlignment(Qt.AlignmentFlag.AlignTop)
        return form

    def finish(self) -> None:
        """To be called once all rows are there."""
        self.form.end(keeps_room=True)
        self.form.setMinimumWidth(max(_LEAST, min(self.form.sizeHint().width(), _MOST)))
        self.column.addWidget(self.box)

    def answer(self) -> None:
        """Does what was asked for; raises `Refusal` to keep the dialog open."""

    def _accept(self) -> None:
        try:
            self.answer()
        except Refusal as refusal:
            self.refuse(refusal)
            return
        self.accept()

    def refuse(self, refusal: Refusal) -> None:
        """Says it under the field that is at fault, which gets the keyboard."""
        forms = [self.form, *self.findChildren(Form)]
        form = next((f for f in forms if f.field_of(refusal) is not None), self.form)
        form.say(refusal)
        field = form.field_of(refusal)
        if field is not None:
            form.reveal(field)
            field.setFocus()


def put_over_properties(dialog: QDialog) -> None:
    """Moves a dialog that stays open over its window's Properties, so that the desk is seen."""
    window = dialog.parentWidget()
    if window is None:
        return
    free, around = dialog.screen().availableGeometry(), window.window().frameGeometry()
    left = min(around.right(), free.right()) - dialog.width() - _EDGE
    dialog.move(max(left, free.left()), max(around.top() + _BARS, free.top()))
