"""What the hand and the keys do where they have no command."""

from __future__ import annotations

from typing import NamedTuple


class Hint(NamedTuple):
    """What the hand or a key does, where it has no command."""

    keys: str
    does: str
    where: str


HINTS = (
    Hint("Click, Shift+click", "Select; add to the selection or take away", "desk"),
    Hint("Ctrl+click", "Select the next lower of items that overlap", "desk"),
    Hint("Drag on empty paper", "Select what the box touches", "desk"),
    Hint("Ctrl+drag on empty paper", "Select what the box encloses", "desk"),
    Hint("Double click", "Edit a text; pick one item out of a group", "desk"),
    Hint("Shift while dragging", "Constrain to one axis, to the proportions, to 15°", "desk"),
    Hint("Alt while dragging", "Move a copy; size about the middle", "desk"),
    Hint("Ctrl while dragging", "Do not snap", "desk"),
    Hint("Arrow keys, with Shift", "Nudge by the step; by ten steps", "desk"),
    Hint("Drag from a ruler", "Drag out a guide; with Shift across the spread", "desk"),
    Hint("Drag a guide back", "Remove the guide", "desk"),
    Hint("Wheel, Ctrl+wheel", "Scroll; zoom at the pointer", "desk"),
    Hint("Space or middle button", "Move the desk", "desk"),
    Hint("Enter", "Edit the selected text", "desk"),
    Hint("Escape", "One step back: gesture, text, tool, selection", "desk"),
    Hint("Tab", "To the next tab stop", "text"),
    Hint("Shift+Enter", "Line break within the paragraph", "text"),
    Hint("Ctrl+arrow keys", "By whole words", "text"),
    Hint("Click, Ctrl+click, Shift+click", "Select pages; single ones; a stretch", "run"),
    Hint("Drag pages", "Move pages; the mark says where they go", "run"),
    Hint("Drag a master onto a page", "Apply a master; with Ctrl add it on top", "run"),
)

PLACES = {"desk": "on the desk", "text": "in a text", "run": "in the Run"}
