"""Where fields stand, how one names the place, and how a field there is opened and focused."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QAbstractButton, QApplication, QDialog, QWidget

from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.panels.properties.panel import Properties
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.needs import need_of
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame

# Kinds of items whose fields stand in Properties while one of the kind is selected.
ITEMS: dict[str, tuple[type, ...]] = {
    "item": (TextFrame, PictureFrame, Shape, Line),
    "frame or shape": (TextFrame, PictureFrame, Shape),
    "text frame": (TextFrame,), "picture frame": (PictureFrame,), "shape": (Shape,),
    "line": (Line,),
}  # fmt: skip
# Levels of the form of a page.
LEVELS = {"page": "Page", "section": "Section", "publication": "Publication"}
_NAMED = {"words": "text", "anchored": "anchored in the text", "master": "master",
          "item": "any item"}  # fmt: skip
_NEEDS = {
    "item": "Select an item first.",
    "frame or shape": "Select a frame or a shape first.",
    "text frame": "Select a text frame first.",
    "picture frame": "Select a picture frame first.",
    "shape": "Select a shape first.",
    "line": "Select a line first.",
    "words": "Double-click a text first; this is a property of words.",
    "anchored": "First click something anchored in the text you are editing.",
    "master": "There is no master yet; make one first.",
}


class Fields:
    """Opens fields by their place and name; places are those of the table of words, a dialog's
    being the id of the command that opens it."""

    def __init__(self, session: Session, commands: Commands, properties: Properties) -> None:
        self.session, self.commands, self.properties = session, commands, properties

    def named(self, places: tuple[str, ...]) -> str:
        """How one names them."""
        place = places[0]
        if place in self.commands.actions:
            return self.commands[place].text().replace("&", "")
        said = ", ".join(_NAMED.get(p, LEVELS.get(p, p).lower()) for p in places)
        return f"Properties › {said}"

    def missing(self, places: tuple[str, ...]) -> str:
        """What must be there first; "" if the field can be opened now."""
        said = ""
        for place in places:
            if self._is_there(place):
                return ""
            said = said or _NEEDS.get(place) or need_of(place) or "Not possible at the moment."
        return said

    def open(self, places: tuple[str, ...], name: str) -> None:
        """Brings the field into sight and puts the keyboard there."""
        place = next((p for p in places if self._is_there(p)), None)
        if place is None:
            return
        if place in self.commands.actions:
            # A dialog that waits for its answer returns only when it is closed.
            QTimer.singleShot(0, lambda: _focus_in_dialog(name))
            self.commands[place].trigger()
            return
        settings().change(properties_shown=True)
        session = self.session
        if place in LEVELS:
            session.show_page(session.page_id)
        elif place == "master":
            if session.mode != "masters" or session.items or session.guide or session.editing:
                session.show_master(session.master_id or session.publication.masters[0].id)
            session.show_desk()
        if not self.properties.focus_field(name, LEVELS.get(place, "")):
            self.session.noticed.emit(
                f"“{name}” isn’t shown at the moment; it appears here when it applies."
            )

    def _is_there(self, place: str) -> bool:
        if place in self.commands.actions:
            return self.commands[place].isEnabled()
        if place in LEVELS:
            return True
        if place == "master":
            return bool(self.session.publication.masters)
        if place in ITEMS:
            return isinstance(self._item(), ITEMS[place])
        # The forms of text: of words, and of what is anchored among them.
        anchored = self.properties.text.anchors.now() is not None
        return self.session.editing is not None and anchored == (place == "anchored")

    def _item(self) -> Item | None:
        session = self.session
        if len(session.items) != 1 or session.editing is not None:
            return None
        return shown_item(session.publication, session.holder_id, session.items[0], session.side)


def _focus_in_dialog(name: str) -> None:
    """The field of that name in the dialog that has just opened."""
    dialogs = [w for w in QApplication.topLevelWidgets() if isinstance(w, QDialog)]
    front = QApplication.activeModalWidget()
    for dialog in sorted((d for d in dialogs if d.isVisible()), key=lambda d: d is not front):
        field = field_of(dialog, name)
        if field is None:
            continue
        for form in dialog.findChildren(Form):
            if form.isAncestorOf(field):
                form.reveal(field)
        field.setFocus()
        return


def field_of(root: QWidget, name: str) -> QWidget | None:
    """The field that is called so: by its accessible name, or by what stands on it."""
    for widget in root.findChildren(QWidget):
        called = widget.accessibleName()
        if not called and isinstance(widget, QAbstractButton):
            called = widget.text()
        if called == name and not isinstance(widget, Form):
            return widget
    return None
