"""What each key does to a text that is written: one table for the page and the galley."""

from __future__ import annotations

from typing import Literal, NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

Way = Literal[
    "left", "right", "word left", "word right", "paragraph up", "paragraph down",
    "text start", "text end",
]  # fmt: skip
LineWay = Literal["line up", "line down", "line start", "line end", "page up", "page down"]
Deed = Literal[
    "delete back", "delete on", "delete word back", "delete word on", "new paragraph",
    "new line", "tab", "copy", "cut", "paste", "select all", "type", "nothing",
]  # fmt: skip


class Act(NamedTuple):
    """What is done, and whether what is selected is extended by it."""

    what: Way | LineWay | Deed
    extends: bool = False


_K = Qt.Key
# By the key and whether Ctrl is held; Shift extends what is selected.
MOVES: dict[tuple[Qt.Key, bool], Way | LineWay] = {
    (_K.Key_Left, False): "left", (_K.Key_Left, True): "word left",
    (_K.Key_Right, False): "right", (_K.Key_Right, True): "word right",
    (_K.Key_Up, False): "line up", (_K.Key_Up, True): "paragraph up",
    (_K.Key_Down, False): "line down", (_K.Key_Down, True): "paragraph down",
    (_K.Key_Home, False): "line start", (_K.Key_Home, True): "text start",
    (_K.Key_End, False): "line end", (_K.Key_End, True): "text end",
    (_K.Key_PageUp, False): "page up", (_K.Key_PageDown, False): "page down",
}  # fmt: skip
# By the key, and whether Ctrl and Shift are held.
DEEDS: dict[tuple[Qt.Key, bool, bool], Deed] = {
    (_K.Key_Backspace, False, False): "delete back",
    (_K.Key_Backspace, False, True): "delete back",
    (_K.Key_Backspace, True, False): "delete word back",
    (_K.Key_Delete, False, False): "delete on",
    (_K.Key_Delete, True, False): "delete word on",
    (_K.Key_Delete, False, True): "cut",
    (_K.Key_Insert, False, False): "nothing",
    (_K.Key_Insert, True, False): "copy",
    (_K.Key_Insert, False, True): "paste",
    (_K.Key_Return, False, False): "new paragraph",
    (_K.Key_Return, False, True): "new line",
    (_K.Key_Enter, False, False): "new paragraph",
    (_K.Key_Enter, False, True): "new line",
    (_K.Key_Tab, False, False): "tab",
}
_STANDARD: dict[QKeySequence.StandardKey, Deed] = {
    QKeySequence.StandardKey.SelectAll: "select all",
    QKeySequence.StandardKey.Copy: "copy",
    QKeySequence.StandardKey.Cut: "cut",
    QKeySequence.StandardKey.Paste: "paste",
}
# A galley has lines and a height of its own.
BY_LINES: frozenset[str] = frozenset(
    ("line up", "line down", "line start", "line end", "page up", "page down")
)


def act_of(event: QKeyEvent) -> Act | None:
    """What a key does to the text; None where it is a command's, or means nothing here."""
    for sequence, deed in _STANDARD.items():
        if event.matches(sequence):
            return Act(deed)
    held, key, kinds = event.modifiers(), Qt.Key(event.key()), Qt.KeyboardModifier
    control, shift = bool(held & kinds.ControlModifier), bool(held & kinds.ShiftModifier)
    if not held & (kinds.AltModifier | kinds.MetaModifier):
        if (key, control) in MOVES:
            return Act(MOVES[key, control], shift)
        if (key, control, shift) in DEEDS:
            return Act(DEEDS[key, control, shift])
    types = bool(event.text()) and event.text().isprintable() and not _is_command(event)
    return Act("type") if types else None


def _is_command(event: QKeyEvent) -> bool:
    """Whether a key with what is held is no letter: Ctrl or Alt; and both, unless they give another
    sign than the key's own, as AltGr does on some keyboards."""
    keys, kinds = event.modifiers(), Qt.KeyboardModifier
    control = bool(keys & (kinds.ControlModifier | kinds.MetaModifier))
    both = control and bool(keys & kinds.AltModifier)
    if both:
        return event.text().upper() == chr(event.key() & 0xFFFF)
    return control or bool(keys & kinds.AltModifier)
