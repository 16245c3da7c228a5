"""Names typed in a dialog for files: Return takes them, whatever list of completions is open."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QWidget

_RETURN = (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class FileNames(QObject):
    """Watches the fields of dialogs for files.  Qt's list of completions takes the first Return for
    itself even where nothing is chosen in it, and the dialog stays open."""

    def __init__(self, app: QApplication) -> None:
        super().__init__(app)
        app.focusChanged.connect(self._look)

    def _look(self, _: QWidget | None, now: QWidget | None) -> None:
        if isinstance(now, QLineEdit) and isinstance(now.window(), QFileDialog):
            completer = now.completer()
            if completer is not None:
                completer.popup().removeEventFilter(self)
                completer.popup().installEventFilter(self)

    def eventFilter(self, popup: QObject, event: QEvent) -> bool:
        if event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        field = popup.focusProxy() if isinstance(popup, QWidget) else None
        if event.key() not in _RETURN or not isinstance(field, QLineEdit):
            return False
        assert isinstance(popup, QWidget)
        popup.hide()
        QApplication.sendEvent(
            field, QKeyEvent(event.type(), event.key(), event.modifiers(), event.text())
        )
        return True
