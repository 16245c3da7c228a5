"""What an input method is making of several keys: shown in the text, with a line below it, and no
part of the publication until it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QInputMethodEvent, QTextFormat

from hidden_frame.desktop.views.writing.units import from_units, to_units
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.steps import letters
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import TextPlace

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.written import WrittenText

_Query = Qt.InputMethodQuery
_Kind = QInputMethodEvent.AttributeType
MOST = 1_000  # characters that are shown while they are made


class Preedit(NamedTuple):
    """What is being made, where the caret stands in it, and the part that is chosen (from, to)."""

    string: str
    caret: int
    chosen: tuple[int, int] = (0, 0)


def preedit_of(event: QInputMethodEvent) -> Preedit:
    """What an event says of it, in characters."""
    string = event.preeditString()
    caret, chosen = len(string), (0, 0)
    attributes: list[Any] = event.attributes()  # what they hold is missing in Qt's stubs
    for attribute in attributes:
        start = from_units(string, max(attribute.start, 0))
        end = from_units(string, max(attribute.start + attribute.length, 0))
        if attribute.type == _Kind.Cursor:
            caret = start
        elif attribute.type == _Kind.TextFormat and attribute.value is not None:
            strong = QTextFormat.Property.BackgroundBrush
            if isinstance(attribute.value, QTextFormat) and attribute.value.hasProperty(strong):
                chosen = (start, end)
    shown = "".join(c for c in string[:MOST] if c.isprintable())
    size = len(shown)
    return Preedit(shown, min(caret, size), (min(chosen[0], size), min(chosen[1], size)))


class Making:
    """Stands in the session's draft; the text, its caret and its steps know nothing of it."""

    def __init__(self, edit: WrittenText) -> None:
        self._edit = edit
        self._draft: Publication | None = None
        self._at: TextPlace = (0, 0)
        self._now = Preedit("", 0)

    @property
    def on(self) -> bool:
        """Whether anything is being made."""
        return self._draft is not None

    def take(self, event: QInputMethodEvent) -> None:
        """What is made goes into the text as keys do; what is being made is shown."""
        shown, made = preedit_of(event), event.commitString()
        session, was = self._edit.session, self._draft
        before = session.kept.now
        self._put_back(silent=bool(made or shown.string))
        self.put(made, event.replacementStart(), event.replacementLength())
        if shown.string:
            self._show(shown)
        if was is not None and session.draft is None and session.kept.now is before:
            session.changed.emit()  # what was made could not be taken: nothing of it is seen
        self._edit.moved.emit()

    def put(self, made: str, start: int, count: int) -> None:
        """What was made, in place of so many UTF-16 units that begin so far from the caret."""
        if count:
            self._replace(start, count)
        if made:
            self._edit.insert(made)

    def _replace(self, start: int, count: int) -> None:
        """Takes characters around the caret away, counted in UTF-16 units from it."""
        edit = self._edit
        index, offset = edit.caret
        string = letters(edit.text[index])
        first = from_units(string, max(to_units(string, offset) + start, 0))
        last = from_units(string, max(to_units(string, offset) + start + count, 0))
        edit.anchor, edit.caret = (index, first), (index, last)
        edit.erase()

    def _show(self, shown: Preedit) -> None:
        edit, session = self._edit, self._edit.session
        change = edit.as_edit()
        if change is None:
            return
        text, at = edit.without_selection()
        text, _ = edit_text.insert(text, at, shown.string)
        self._at, self._now = at, shown
        self._draft = change(session.history.now, text)
        session.set_draft(self._draft)

    def _put_back(self, silent: bool) -> None:
        """The text as it was before."""
        if self._draft is None:
            return
        session, self._draft = self._edit.session, None
        if silent:
            session.draft = None
        else:
            session.set_draft(None)

    def stop(self) -> None:
        """The input method is to give what it has made; what it keeps is dropped."""
        if self._draft is not None:
            QGuiApplication.inputMethod().commit()
            if self._draft is not None:
                self._put_back(silent=False)
                QGuiApplication.inputMethod().reset()

    def lose(self) -> None:
        """Something else was done meanwhile: what was being made is gone."""
        if self._draft is not None:
            session = self._edit.session
            if session.draft is self._draft:
                session.draft = None
            self._draft = None
            QGuiApplication.inputMethod().reset()

    def watch(self) -> None:
        """Told of every change of what is shown."""
        if self._draft is not None and self._edit.session.draft is not self._draft:
            self.lose()

    def seen(self) -> tuple[TextPlace, ...]:
        """Where the caret stands in what is shown, where what is being made begins and ends there,
        and the part of it that is chosen; nothing while nothing is made."""
        if self._draft is None:
            return ()
        index, offset = self._at
        string, caret, (first, last) = self._now
        return tuple((index, offset + n) for n in (caret, 0, len(string), first, last))

    def asked(self, query: Qt.InputMethodQuery) -> object:
        """What an input method wants to know of the words around the caret; None for the rest."""
        edit = self._edit
        text = edit.text
        if not text:
            return None
        (index, offset), (other, begun) = edit.caret, edit.anchor
        string = letters(text[index])
        begun = begun if other == index else offset
        if query == _Query.ImSurroundingText:
            return string
        if query == _Query.ImCursorPosition:
            return to_units(string, offset)
        if query == _Query.ImAnchorPosition:
            return to_units(string, begun)
        if query == _Query.ImCurrentSelection:
            return string[min(offset, begun) : max(offset, begun)]
        if query == _Query.ImTextBeforeCursor:
            return string[:offset]
        if query == _Query.ImTextAfterCursor:
            return string[offset:]
        return None
