"""What is doubtful about what is anchored in a text, as a page shows it."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.fault import Fault, PrintedItem
from hidden_frame.interact.hands.anchoring import seen_in
from hidden_frame.model.number_format import figure

_HAIR = 0.05  # points


def anchored_faults(look: PrintedItem) -> Iterator[Fault]:
    """What is wrong with each anchored picture or caption that a frame shows."""
    scene, placed = look.scene, look.placed
    shown = placed.drawing.text
    if shown is None or not any(spec.dress.anchored for spec in shown.text.specs):
        return
    for seen in seen_in(placed, scene.side):
        box, anchor = seen.box, seen.anchor
        what = "caption" if anchor.picture is None and anchor.caption else "picture"
        wide = box.right - box.left
        if wide < anchor.width - _HAIR:
            yield look.fault(
                "anchored smaller",
                f"has too little room for an anchored {what} of {figure(anchor.width)} pt, shown "
                f"{figure(wide)} pt wide; make it smaller",
            )
        if anchor.picture is None and not anchor.caption:
            bare = "contains an anchored frame without a picture, which prints nothing"
            yield look.fault("anchored empty", bare)
        corners = [placed.matrix.apply(x, y) for x in box[::2] for y in box[1::2]]
        past = max(
            max(-x, x - scene.width, -y, y - scene.height) for x, y in corners
        )  # fmt: skip
        if past > scene.bleed + _HAIR:
            off = f"has an anchored {what} that extends off the page"
            yield look.fault("anchored off the page", off)
