"""Text edited in place by keys: what each act does, and what of it is seen in a frame."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtGui import QGuiApplication, QKeyEvent

from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.keys import BY_LINES, Act, act_of
from hidden_frame.desktop.views.writing.mime import as_mime
from hidden_frame.desktop.views.writing.pasting import Pasting
from hidden_frame.desktop.views.writing.written import WrittenText
from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.hands.carets import END, START, Standing, by_line, by_page
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.text import TextPlace
from hidden_frame.typeset.caret import Caret, caret_at, reads_from_right, spans_of

_LINES = {"line up": -1, "line down": 1, "line start": START, "line end": END}
_TURNED = {"left": "right", "right": "left", "word left": "word right", "word right": "word left"}


class WritingMarks(NamedTuple):
    """What is seen of the writing in one frame: the caret, what is selected, what an input method
    is making and the part of it that is chosen."""

    caret: Caret | None = None
    selected: tuple[Bounds, ...] = ()
    making: tuple[Bounds, ...] = ()
    chosen: tuple[Bounds, ...] = ()


class TextEdit(WrittenText):
    """The hand that writes."""

    def __init__(self, session: Session, placed: Callable[[], Placed | None]) -> None:
        super().__init__(session, placed)
        self.pasting = Pasting(self)

    def key(self, event: QKeyEvent) -> bool:
        """Handles a key; False leaves it to the desk."""
        act = act_of(event)
        if act is None:
            return False
        self.do(act, event.text())
        return True

    def do(self, act: Act, typed: str = "") -> None:
        """One act of the table of keys; `typed` is what the key says."""
        what = act.what
        if what in BY_LINES or what in _WAYS:
            self._go(self._gone(what, act.extends), act.extends)
        elif what == "type":
            self._typed_key(typed)
        elif what in ("delete back", "delete on", "delete word back", "delete word on"):
            self._delete(what)
        elif what in _PUT:
            self.insert(_PUT[what])
        elif what == "select all":
            self.select_all()
        elif what == "copy":
            self.copy()
        elif what == "cut":
            self.cut()
        elif what == "paste":
            self.paste()
        self._follow()

    # -- the caret ---------------------------------------------------------------------

    def _go(self, standing: Standing, extends: bool) -> None:
        self.stand(standing)
        if not extends:
            self.anchor = self.caret
        self.session.seal()

    def _gone(self, way: str, extends: bool) -> Standing:
        """Where the caret goes."""
        if way in _TURNED and self._from_right():
            way = _TURNED[way]
        if way in ("left", "right") and not extends and self.caret != self.anchor:
            return Standing(self.selection[way == "right"])
        if way in _WAYS:
            return Standing(_WAYS[way](self.text, self.caret))
        shown = self.shown()
        if shown is None:
            return self.standing
        if way in _LINES:
            return by_line(self.text, shown, self.standing, _LINES[way])
        return by_page(self.text, shown, self.standing, -1 if way == "page up" else 1)

    def _from_right(self) -> bool:
        """Whether the text at the caret is read from right to left, so that a key that points to
        the left goes on in it."""
        shown = self.shown()
        if shown is None:
            return False
        return reads_from_right(shown.text, self.caret[0] - shown.first, self.caret[1])

    def select_all(self) -> None:
        """All of the text, or of its story."""
        self.anchor, self.caret = (0, 0), steps.end_of(self.text)
        self.moved.emit()

    # -- changes -----------------------------------------------------------------------

    def _delete(self, what: str) -> None:
        if self.caret == self.anchor:
            text, place = self.text, self.caret
            self.anchor = {
                "delete back": steps.erased, "delete on": steps.after,
                "delete word back": steps.word_before, "delete word on": steps.word_after,
            }[what](text, place)  # fmt: skip
            begun = self.here()
            self.erase(begun._replace(anchor=place) if begun is not None else None)
            self.anchor = self.caret  # if it was refused, too
            return
        self.erase()

    def cut(self) -> None:
        """What is selected, away and onto the clipboard."""
        self.copy()
        self.erase()

    def copy(self) -> None:
        """Words with their styles for here, as a web page and plain for elsewhere."""
        start, end = self.selection
        if start != end:
            piece = edit_text.cut_out(self.text, start, end)
            QGuiApplication.clipboard().setMimeData(as_mime(self.session.publication, piece))

    def paste(self, plain: bool = False) -> None:
        """What the clipboard holds; `plain` is its words without their looks."""
        data = QGuiApplication.clipboard().mimeData()
        if data is not None:
            (self.pasting.put_plain if plain else self.pasting.put)(data)

    # -- what is seen ------------------------------------------------------------------

    def marks(self, holder_id: str, placed: Placed) -> WritingMarks:
        """The caret, and the stretches that are marked, as far as they stand in a frame."""
        block, editing, told = placed.drawing.text, self.session.editing, self.told()
        if block is None or editing is None or not block.text.lines:
            return WritingMarks()
        mine = (holder_id, placed.item_id) == (editing.holder_id, editing.item_id)
        first = 0
        if told is not None:
            if (holder_id, placed.item_id) not in told.flow.index:
                return WritingMarks()
            first = told.flow.first_paragraph(holder_id, placed.item_id)

        def spans(start: TextPlace, end: TextPlace) -> tuple[Bounds, ...]:
            if start == end:
                return ()
            start, end = (start[0] - first, start[1]), (end[0] - first, end[1])
            return tuple(spans_of(block.text, start, end))

        made = self.making.seen()
        (paragraph, offset), late, _ = Standing(made[0]) if made else self.standing
        seen = mine and (told is None or late or told.flow.stop_of(paragraph, offset) is not None)
        caret = caret_at(block.text, paragraph - first, offset, late) if seen else None
        if made:
            return WritingMarks(caret, (), spans(*made[1:3]), spans(*made[3:]))
        return WritingMarks(caret, spans(*self.selection))


_PUT = {"new paragraph": "\n", "new line": "\u2028", "tab": "\t"}
_WAYS = {
    "left": steps.before,
    "right": steps.after,
    "word left": steps.word_before,
    "word right": steps.word_after,
    "paragraph up": lambda text, place: steps.paragraph_from(text, place, -1),
    "paragraph down": lambda text, place: steps.paragraph_from(text, place, 1),
    "text start": lambda text, place: (0, 0),
    "text end": lambda text, place: steps.end_of(text),
}
