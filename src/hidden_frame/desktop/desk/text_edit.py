"""Text edited in place: caret and selection, keys to edits (how it is dressed: `text_dress`)."""

from __future__ import annotations

import time
from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence

from hidden_frame.compose.composer import Told
from hidden_frame.compose.scene import Placed, TextPrimitive
from hidden_frame.desktop.desk.items_mime import anchorable
from hidden_frame.desktop.desk.text_anchors import TextAnchors
from hidden_frame.desktop.desk.text_dress import TextDress
from hidden_frame.desktop.desk.text_mime import as_mime, from_mime
from hidden_frame.desktop.desk.text_places import TextPlaces
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.settings import settings
from hidden_frame.desktop.sight import Editing
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.typing import typed
from hidden_frame.interact.carets import END, START, by_line
from hidden_frame.interact.hits import Spot, hit
from hidden_frame.interact.shown import change_shown, shown_item
from hidden_frame.model.items import TextFrame
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_style
from hidden_frame.model.text import STEADY, Marker, Text, TextPlace
from hidden_frame.spelling.checked import is_code
from hidden_frame.typeset.caret import Caret, caret_at, place_at, reads_from_right, spans_of

_WAYS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Home: START, Qt.Key.Key_End: END}
_TURNED = {Qt.Key.Key_Left: Qt.Key.Key_Right, Qt.Key.Key_Right: Qt.Key.Key_Left}
_MOVES = {Qt.Key.Key_Left, Qt.Key.Key_Right, *_WAYS}


_KEPT = (
    QKeySequence.StandardKey.SelectAll,
    QKeySequence.StandardKey.Copy,
    QKeySequence.StandardKey.Cut,
    QKeySequence.StandardKey.Paste,
)
_EDITS = {Qt.Key.Key_Backspace, Qt.Key.Key_Delete, Qt.Key.Key_Tab}


_REST = 2.0  # seconds without a key after which typing is a new step
_STEP = 48  # characters of one step, to the end of their word


def wants_key(event: QKeyEvent) -> bool:
    """Whether a key belongs to the text being edited before any command's key."""
    key = Qt.Key(event.key())
    typed = bool(event.text()) and event.text().isprintable() and not _command(event)
    return typed or key in _EDITS | _MOVES or any(event.matches(k) for k in _KEPT)


class TextEdit(QObject):
    """The caret of the frame named by `session.editing`."""

    moved = Signal()

    def __init__(self, session: Session, placed: Callable[[], Placed | None]) -> None:
        super().__init__()
        self.session = session
        self.placed = placed
        self.caret: TextPlace = (0, 0)
        self.anchor: TextPlace = (0, 0)
        self._typed, self._typed_at = "", 0.0
        self._making = False  # whether the selection is what an input method is making
        self.dress = TextDress(self)
        self.anchors = TextAnchors(self)
        self.places = TextPlaces(self)

    # -- the text ----------------------------------------------------------------

    @property
    def text(self) -> Text:
        """The text being edited, with at least one paragraph."""
        editing = self.session.editing
        if editing is None:
            return ()
        told = self.told()
        if told is not None:
            return told.story.text
        item = shown_item(
            self.session.publication, editing.holder_id, editing.item_id, editing.side
        )
        first = self.session.publication.paragraph_styles[0].id
        return edit_text.start_of(item.text, first) if isinstance(item, TextFrame) else ()

    def told(self) -> Told | None:
        """The story that is being written; None for a frame's own text."""
        editing = self.session.editing
        if editing is None or editing.holder_id not in self.session.composition.facts:
            return None
        return self.session.composition.told(editing.holder_id, editing.item_id)

    def first(self) -> int:
        """The number in the text of the paragraph from which the edited frame counts."""
        told, editing = self.told(), self.session.editing
        if told is None or editing is None:
            return 0
        return told.flow.first_paragraph(editing.holder_id, editing.item_id)

    def block(self) -> TextPrimitive | None:
        placed = self.placed()
        return None if placed is None else placed.drawing.text

    def begin(self, editing: Editing, at: tuple[float, float] | None = None) -> None:
        """Puts the caret at the text's end; in a story at a point of the page (points), or where
        the frame's part begins."""
        self.session.edit_text(editing)
        told = self.told()
        if told is None:
            self.caret = self.anchor = edit_text.end_of(self.text)
        else:
            start = told.flow.starts[told.flow.index[editing.holder_id, editing.item_id]]
            place = self._place_at(*at) if at is not None else None
            place = place or (start.paragraph, start.place.offset)
            self.caret = self.anchor = _clamped(self.text, place)
        self._follow()

    def write_at(self, story_id: str, caret: TextPlace, anchor: TextPlace | None = None) -> bool:
        """Puts the caret into a story, wherever that place stands; False if it has no frame."""
        flow = self.session.composition.flow(story_id)
        at = flow.stop_of(*caret)
        if at is None and flow.stops:
            at = len(flow.stops) - 1
        if at is None:
            return False
        stop = flow.stops[at]
        self.session.write_in(Editing(stop.page_id, stop.room.item_id, stop.side))
        self.caret = _clamped(self.text, caret)
        self.anchor = self.caret if anchor is None else _clamped(self.text, anchor)
        self._follow()
        return True

    def _follow(self) -> None:
        """Goes on in the frame in which the caret has come to stand."""
        told, editing = self.told(), self.session.editing
        if told is not None and editing is not None:
            at = told.flow.stop_of(*self.caret)
            stop = told.flow.stops[at] if at is not None else None
            if stop is not None and stop.key != (editing.holder_id, editing.item_id):
                self.session.write_in(Editing(stop.page_id, stop.room.item_id, stop.side))
        self.moved.emit()

    def clamp(self) -> None:
        """Keeps the caret within the text after an undo."""
        text = self.text
        if not text:
            return
        self.caret = _clamped(text, self.caret)
        self.anchor = _clamped(text, self.anchor)

    @property
    def selection(self) -> tuple[TextPlace, TextPlace]:
        return min(self.anchor, self.caret), max(self.anchor, self.caret)

    # -- changes -----------------------------------------------------------------

    def _has_room(self, more: int) -> bool:
        """Whether the frame takes so many more characters; says so if not."""
        most = edit_text.MAX_CHARACTERS
        # A story is counted only when much is put in: counting it takes as long as setting it.
        if self.told() is not None:
            most, quick = edit_text.MAX_STORY, more < 1_000
            if quick:
                return True
        room = edit_text.total(self.text) + more <= most
        if not room:
            limit = f"{most:,}"
            self.session.noticed.emit(
                f"A frame holds at most {limit} characters; put the rest into another one."
            )
        return room

    def change(
        self,
        name: str,
        text: Text,
        place: TextPlace,
        merge: str = "",
        before: Callable[[Publication], Publication] = lambda p: p,
    ) -> None:
        """The text as another one, the caret at a place; `before` belongs to the same step."""
        editing = self.session.editing
        if editing is None:
            return
        told = self.told()
        if told is not None and told.story.lists:
            self.session.noticed.emit(
                "This text lists headings by itself; change those, or what it lists: Contents list…"
            )
            return
        change: Callable[[Publication], Publication]
        if told is not None:
            about, story_id = told.story.id, told.story.id
            change = lambda p: set_story_text(before(p), story_id, text)  # noqa: E731
        else:
            about = editing.item_id
            changes: dict[str, dict[str, object]] = {about: {"text": text}}
            change = lambda p: change_shown(  # noqa: E731
                before(p), editing.holder_id, editing.side, changes
            )
        self.session.edit(name, change, merge and f"{merge} {about}")
        self.caret = self.anchor = place
        self._follow()

    def without_selection(self) -> tuple[Text, TextPlace]:
        """The text without what is selected, and where that stood."""
        start, end = self.selection
        text = self.text
        return edit_text.delete(text, start, end) if start != end else (text, start)

    def insert(self, string: str, merge: str = "typing") -> None:
        if not self._has_room(len(string)):
            return
        if merge:
            self._pause(string)
        text, place = self.without_selection()
        text, place = edit_text.insert(text, place, string)
        self.change("typing" if merge else "paste text", text, place, merge)

    def insert_form(self, character: str, form: str) -> None:
        """A character in another form than the usual one (a look's `alternate`), if one is said."""
        if not form or not self._has_room(1):
            self.insert(character)
            return
        text, start = self.without_selection()
        text, place = edit_text.insert(text, start, character)
        text = edit_text.set_look(text, start, place, alternate=form)
        self.change("character", text, place)
        self.session.seal()

    def _typed_key(self, key: str) -> None:
        """A key as a typist means it: quotes and dashes of the language, unless that is off, or the
        style is one for code."""
        if key not in "\"'-." or not settings().now.typographic:
            self.insert(key)
            return
        (index, offset), _ = self.selection
        paragraph = self.text[index]
        publication = self.session.publication
        style = computed_style(publication.paragraph_styles, paragraph.style)
        if is_code(style.name):
            self.insert(key)
            return
        own = self.dress.now()["language"]
        language = str(own or style.language or publication.about.language)
        before = edit_text.plain((paragraph,), (0, max(offset - 400, 0)), (0, offset))
        gone, made = typed(before, key, language)
        if gone and self.caret == self.anchor:
            self.anchor = (index, offset - gone)
        self.insert(made)

    def _pause(self, string: str) -> None:
        """Ends an undo step as people write: after a rest, with a new paragraph, and with
        the next word once a step holds a line's worth of characters."""
        now = time.monotonic()
        begins_word = string.strip() != "" and self._typed.endswith((" ", "\n"))
        long = begins_word and len(self._typed) >= _STEP
        if now - self._typed_at > _REST or "\n" in string or long:
            self.session.seal()
            self._typed = ""
        self._typed_at = now
        self._typed += string

    def compose(self, made: str, making: str) -> None:
        """What an input method has made, and what it is making, which the next call replaces."""
        if self._making:  # what was shown for the time being
            text, place = self.without_selection()
            self.change("typing", text, place, "typing")
        self._making = False
        if made:
            self.insert(made)
        if making:
            start = self.caret
            self.insert(making)
            self.anchor, self._making = start, True
        self.moved.emit()

    def marker(self) -> Marker | None:
        """The marker that is selected by itself, or that stands right before the caret."""
        text, (start, end) = self.text, self.selection
        if not text or (start != end and end != (start[0], start[1] + 1)):
            return None
        at = start if start != end else (start[0], start[1] - 1)
        found = edit_text.object_at(text, at)
        return found if isinstance(found, Marker) else None

    def insert_marker(self, marker: Marker) -> None:
        """A marker in place of what is selected, a running head in that of the one at the caret."""
        before = self.marker()
        heads = marker.head is not None and before is not None and before.head is not None
        if heads and self.caret == self.anchor:
            self.anchor = (self.caret[0], self.caret[1] - 1)
        if self.told() is not None and marker.shows not in STEADY:
            self.session.noticed.emit(
                "A story stands on many pages and can't show one page's folio; put the marker into "
                "a frame of the master."
            )
            return
        text, place = self.without_selection()
        text, place = edit_text.insert_marker(text, place, marker)
        self.change("insert marker", text, place)
        self.session.seal()

    def keep(
        self,
        name: str,
        text: Text,
        before: Callable[[Publication], Publication] = lambda p: p,
    ) -> None:
        """A change that moves neither caret nor selection."""
        caret, anchor = self.caret, self.anchor
        self.change(name, text, caret, before=before)
        self.caret, self.anchor = caret, anchor
        self.session.seal()
        self._follow()

    # -- keys and mouse ----------------------------------------------------------

    def press(self, spot: Spot, extend: bool) -> None:
        """The caret at a point of a page, in whichever frame of the story lies there."""
        self._enter(spot)
        place = self._place_at(spot.x, spot.y)
        if place is not None:
            self.caret = place
            if not extend:
                self.anchor = place
            self.session.seal()
            self.moved.emit()

    def point_at(self, spot: Spot) -> None:
        """The caret at a point, unless what is selected lies there."""
        before = self.selection, self.session.editing
        self.press(spot, extend=False)
        if self.session.editing == before[1] and before[0][0] < self.caret < before[0][1]:
            self.anchor, self.caret = before[0]
            self.moved.emit()

    def holds(self, spot: Spot) -> bool:
        """Whether a point lies on the frame that is edited, or on another one of its story."""
        return self._frame_at(spot) is not None

    def _frame_at(self, spot: Spot) -> str | None:
        editing = self.session.editing
        if editing is None:
            return None
        found = hit(self.session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is None:
            return None
        same = (editing.holder_id, editing.side) == (spot.face.holder_id, spot.face.side)
        if same and found.item_id == editing.item_id:
            return found.item_id
        told = self.told()
        here = told is not None and (spot.face.holder_id, found.item_id) in told.flow.index
        return found.item_id if here else None

    def _enter(self, spot: Spot) -> None:
        """Another frame of the story is the one that is written in now."""
        editing, item_id = self.session.editing, self._frame_at(spot)
        if editing is None or item_id is None:
            return
        if (spot.face.holder_id, item_id) != (editing.holder_id, editing.item_id):
            self.session.write_in(Editing(spot.face.holder_id, item_id, spot.face.side))

    def select_word(self, spot: Spot) -> None:
        self._enter(spot)
        place = self._place_at(spot.x, spot.y)
        if place is not None:
            self.anchor, self.caret = edit_text.word_around(self.text, place)
            if self.anchor == self.caret:  # no word: a marker on either side
                index, offset = place
                for at in (offset, offset - 1):
                    if edit_text.object_at(self.text, (index, at)) is not None:
                        self.anchor, self.caret = (index, at), (index, at + 1)
                        break
            self.moved.emit()

    def _place_at(self, x: float, y: float) -> TextPlace | None:
        placed, block, first = self.placed(), self.block(), self.first()
        if placed is None or block is None or not block.text.lines:
            return _clamped(self.text, (first, 0)) if self.text else None
        px, py = placed.matrix.inverse().apply(x, y)
        paragraph, offset = place_at(block.text, px - block.x, py - block.y)
        return _clamped(self.text, (first + paragraph, offset))

    def marks(self, holder_id: str, placed: Placed) -> tuple[Caret | None, list[Bounds]]:
        """The caret, and the selected stretches, as far as they stand in a frame."""
        block, editing, told = placed.drawing.text, self.session.editing, self.told()
        if block is None or editing is None or not block.text.lines:
            return None, []
        mine = (holder_id, placed.item_id) == (editing.holder_id, editing.item_id)
        first = 0
        if told is not None:
            if (holder_id, placed.item_id) not in told.flow.index:
                return None, []
            first = told.flow.first_paragraph(holder_id, placed.item_id)
        (p1, o1), (p2, o2) = self.selection
        start, end = (p1 - first, o1), (p2 - first, o2)
        spans = spans_of(block.text, start, end) if start != end else []
        seen = told is None or told.flow.stop_of(*self.caret) is not None
        at = (self.caret[0] - first, self.caret[1])
        return (caret_at(block.text, *at) if mine and seen else None), spans

    def key(self, event: QKeyEvent) -> bool:
        """Handles a key; False leaves it to the desk."""
        key = event.key()
        if event.matches(QKeySequence.StandardKey.SelectAll):
            self.select_all()
        elif event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Cut):
            self.cut()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif key in _MOVES:
            self._move(key, event.modifiers())
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self._delete(-1 if key == Qt.Key.Key_Backspace else 1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            soft = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self.insert("\u2028" if soft else "\n")
        elif key == Qt.Key.Key_Tab:
            self.insert("\t")
        elif event.text() and event.text().isprintable() and not _command(event):
            self._typed_key(event.text())
        else:
            return False
        self._follow()
        return True

    def select_all(self) -> None:
        """All of the text, or of its story."""
        self.anchor, self.caret = (0, 0), edit_text.end_of(self.text)
        self.moved.emit()

    def cut(self) -> None:
        """What is selected, away and onto the clipboard."""
        self.copy()
        self._delete(0)

    def copy(self) -> None:
        """Words with their styles for here, as a web page and plain for elsewhere."""
        start, end = self.selection
        if start != end:
            piece = edit_text.cut_out(self.text, start, end)
            QGuiApplication.clipboard().setMimeData(as_mime(self.session.publication, piece))

    def paste(self) -> None:
        """Words with what they look like, as far as it is known here; a picture is anchored."""
        parcel = anchorable(QGuiApplication.clipboard().mimeData())
        if parcel is not None and self.anchors.put_item(parcel):
            return
        text = self.text
        piece = from_mime(
            QGuiApplication.clipboard().mimeData(), self.session.publication,
            text[self.caret[0]].style, whole=self.told() is not None,
        )  # fmt: skip
        if piece is None:
            self.insert(QGuiApplication.clipboard().text(), merge="")
            return
        if self._has_room(edit_text.total(piece)):
            text, place = self.without_selection()
            self.change("paste text", *edit_text.put_in(text, place, piece))
            self.session.seal()

    def _delete(self, direction: int) -> None:
        start, end = self.selection
        text = self.text
        if start == end:
            if direction < 0:
                start = edit_text.before(text, end)
            elif direction > 0:
                end = edit_text.after(text, end)
        if start != end:
            text, place = edit_text.delete(text, start, end)
            self.change("delete text", text, place, "deleting")

    def _move(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        text = self.text
        place = self.caret
        whole = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        if key in _TURNED and self._from_right():
            key = _TURNED[Qt.Key(key)]
        if key == Qt.Key.Key_Left:
            place = edit_text.before(text, place)
            if whole:
                place = edit_text.word_around(text, place)[0]
        elif key == Qt.Key.Key_Right:
            place = edit_text.after(text, place)
            if whole:
                place = edit_text.word_around(text, place)[1]
        elif whole and key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            place = (0, 0) if key == Qt.Key.Key_Home else edit_text.end_of(text)
        elif whole:
            place = edit_text.paragraph_from(text, place, -1 if key == Qt.Key.Key_Up else 1)
        else:
            place = self._by_line(key)
        self.caret = place
        if not modifiers & Qt.KeyboardModifier.ShiftModifier:
            self.anchor = place
        self.session.seal()

    def _from_right(self) -> bool:
        """Whether the text at the caret is read from right to left, so that a key that points to
        the left goes on in it."""
        block = self.block()
        if block is None or not block.text.lines:
            return False
        return reads_from_right(block.text, self.caret[0] - self.first(), self.caret[1])

    def _by_line(self, key: int) -> TextPlace:
        block, told, editing = self.block(), self.told(), self.session.editing
        if block is None or editing is None:
            return self.caret
        at = told.flow.index[editing.holder_id, editing.item_id] if told is not None else 0
        return by_line(self.text, block.text, self.caret, _WAYS[Qt.Key(key)], told, at)


def _clamped(text: Text, place: TextPlace) -> TextPlace:
    index = min(place[0], len(text) - 1)
    return index, min(place[1], edit_text.length(text[index]))


def _command(event: QKeyEvent) -> bool:
    """Whether a key with what is held is no letter: Ctrl or Alt, but not both, since some
    keyboards give signs by Ctrl+Alt as others do by AltGr."""
    keys, kinds = event.modifiers(), Qt.KeyboardModifier
    control = bool(keys & (kinds.ControlModifier | kinds.MetaModifier))
    return control != bool(keys & kinds.AltModifier)
