"""Items that print nothing, lie off their page, are cut, or stop short of the bleed."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.fault import Fault, PrintedItem
from hidden_frame.compose.scene import PathPrimitive, PicturePrimitive, Placed, TextPrimitive
from hidden_frame.model.plane.box import Bounds

_NEAR = 0.1  # points


def empty_faults(look: PrintedItem) -> Iterator[Fault]:
    """An item without text, picture, colour and line."""
    if _prints_nothing(look.placed) and not look.scene.is_master:
        yield look.fault("prints nothing", "is empty and prints nothing")


def _prints_nothing(placed: Placed) -> bool:
    """Whether an item has no text, no picture, no colour and no line."""
    if placed.drawing.told:  # a frame that waits for its story
        return False
    for primitive in placed.drawing.primitives:
        if isinstance(primitive, PathPrimitive | PicturePrimitive):
            return False
        if isinstance(primitive, TextPrimitive) and any(
            paragraph.spans for paragraph in primitive.text.specs
        ):
            return False
    return True


def seen_bounds(placed: Placed) -> Bounds:
    """The box around what is seen of an item, without its line's width."""
    w, h = placed.drawing.width, placed.drawing.height
    points: list[tuple[float, float]] = [(0, 0), (w, 0), (w, h), (0, h)]
    outlines = [p for p in placed.drawing.primitives if isinstance(p, PathPrimitive)]
    if outlines:
        points = list(_along(outlines[0].commands))
    seen = [placed.matrix.apply(x, y) for x, y in points]
    xs, ys = [p[0] for p in seen], [p[1] for p in seen]
    return Bounds(min(xs), min(ys), max(xs), max(ys))


def _along(commands: tuple[tuple, ...]) -> Iterator[tuple[float, float]]:
    """Points of a path, close together where it is curved."""
    here = (0.0, 0.0)
    for name, *at in commands:
        if name == "C":
            (x0, y0), (x1, y1, x2, y2, x3, y3) = here, at
            for n in range(1, 17):
                t, u = n / 16, 1 - n / 16
                a, b, c, d = u**3, 3 * u * u * t, 3 * u * t * t, t**3
                yield a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3
        elif name != "Z":
            yield at[0], at[1]
        if name != "Z":
            here = (at[-2], at[-1])


def edge_faults(look: PrintedItem) -> Iterator[Fault]:
    """What lies off its page, is cut at the spine, or ends at the trim."""
    scene, placed, facing = look.scene, look.placed, look.limits.facing
    if _prints_nothing(placed) and not scene.is_master:
        return
    left, top, right, bottom = seen_bounds(placed)
    bleed = scene.bleed
    if (
        right <= -bleed or bottom <= -bleed
        or left >= scene.width + bleed or top >= scene.height + bleed
    ):  # fmt: skip
        yield look.fault("off the page", "lies wholly off the page and is not printed")
        return
    spine = None if not facing else ("left" if scene.side == "recto" else "right")
    beyond = {"left": -left, "right": right - scene.width}.get(spine or "", 0.0)
    if beyond > bleed + _NEAR and not scene.faced:
        yield look.fault(
            "cut at the spine", "extends over the spine where no page faces it; the part "
                                "beyond is not printed",
        )  # fmt: skip
    kinds = {type(p) for p in placed.drawing.primitives}
    alone = PicturePrimitive in kinds and TextPrimitive not in kinds
    inked = PathPrimitive in kinds or alone
    if not bleed or not inked:
        return
    past = {
        "left": -left, "top": -top, "right": right - scene.width, "bottom": bottom - scene.height,
    }  # fmt: skip
    short = [s for s, by in past.items() if s != spine and -_NEAR <= by < bleed - _NEAR]
    if short:
        sides = " and ".join(short)
        yield look.fault(
            "short of the bleed",
            f"ends at the trim edge ({sides}) without extending into the bleed; a sliver of "
            "paper may show",
            tuple(past[s] if s in short else -1e9 for s in past),
        )
