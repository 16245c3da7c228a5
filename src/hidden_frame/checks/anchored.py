"""What is doubtful about what is anchored in a text, as a page shows it."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.interact.hands.anchoring import seen_in

_HAIR = 0.05  # points


def anchored_faults(scene: Scene, placed: Placed) -> Iterator[tuple[str, str]]:
    """The kind of each fault, and what is wrong, after the name of the frame."""
    shown = placed.drawing.text
    if shown is None or not any(spec.dress.anchored for spec in shown.text.specs):
        return
    for seen in seen_in(placed, scene.side):
        box, anchor = seen.box, seen.anchor
        what = "caption" if anchor.picture is None and anchor.caption else "picture"
        wide = box.right - box.left
        if wide < anchor.width - _HAIR:
            yield (
                "anchored smaller",
                f"has no room for an anchored {what} of {anchor.width:.4g} pt, which is shown "
                f"{wide:.4g} pt wide; make it smaller",
            )
        if anchor.picture is None and not anchor.caption:
            yield "anchored empty", "holds an anchored frame without a picture; it prints nothing"
        corners = [placed.matrix.apply(x, y) for x in box[::2] for y in box[1::2]]
        past = max(
            max(-x, x - scene.width, -y, y - scene.height) for x, y in corners
        )  # fmt: skip
        if past > scene.bleed + _HAIR:
            yield "anchored off the page", f"has an anchored {what} that reaches off the page"
