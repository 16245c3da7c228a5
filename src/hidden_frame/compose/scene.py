"""The display list of a page: what every painter paints, and nothing else.

Primitives stand in their item's own coordinates (points, y downward, origin at its
top left corner); `Placed.matrix` takes them to the page, origin at the trim's corner.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from hidden_frame.model.geometry import Flip, Side
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.plane.matrix import Matrix
from hidden_frame.typeset.overflow import Overflow
from hidden_frame.typeset.paragraph import Ink
from hidden_frame.typeset.text import SetText

Rect = tuple[float, float, float, float]  # x, y, width, height
Home = tuple[str, Side]  # a page, or a face of a master


class Pen(NamedTuple):
    """How a path is stroked; alpha 0 to 1."""

    ink: Ink
    width: float
    alpha: float = 1.0
    dash: tuple[float, ...] = ()


class PathPrimitive(NamedTuple):
    """A path of ("M", x, y), ("L", x, y), ("C", x1, y1, x2, y2, x, y) and ("Z",)."""

    commands: tuple[tuple, ...]
    ink: Ink | None = None
    alpha: float = 1.0
    pen: Pen | None = None


class TextPrimitive(NamedTuple):
    """The first `shown` lines of a set text, moved by (x, y)."""

    text: SetText
    x: float
    y: float
    shown: int
    alpha: float = 1.0


class PicturePrimitive(NamedTuple):
    """A picture in `rect`, seen through `clip`, a path as a `PathPrimitive`'s.

    Its stored pixels are turned as `orientation` says; `tones` are its colours by cells (see
    `model.Picture`); `flip` mirrors all of it within its rectangle.
    """

    hash: str
    kind: str
    rect: Rect
    clip: tuple[tuple, ...]
    alpha: float = 1.0
    orientation: int = 1
    tones: bytes = b""
    flip: Flip = "no"


class Placeholder(NamedTuple):
    """An empty picture frame, or one whose picture is missing; never printed."""

    rect: Rect
    note: str


Primitive = PathPrimitive | TextPrimitive | PicturePrimitive | Placeholder


class Drawing(NamedTuple):
    """An item's primitives, bottom to top, and what does not fit of its text; `told` says that a
    story stands in it, or would."""

    primitives: tuple[Primitive, ...]
    width: float
    height: float
    overflow: Overflow | None = None
    told: bool = False

    @property
    def text(self) -> TextPrimitive | None:
        return next((p for p in self.primitives if isinstance(p, TextPrimitive)), None)


class Placed(NamedTuple):
    """A drawing on a page, and where it came from; `name` is what its item is called.

    `carrier` is the master that carries the item (None: it stands here itself).  One
    that is `multiplied` darkens what lies below it (ISO 32000-1, 11.3.5.2).  `rank` is its
    layer's place and whether it is a page's own; its `home` is the page that faces this one,
    if it reaches over from there.  `dark` is how it is drawn on dark ground, if it is otherwise
    and that is not decided yet; its ground is `mixed` where either way is hard to read in part.
    """

    drawing: Drawing
    matrix: Matrix
    item_id: str
    carrier: str | None
    overridden: tuple[str, ...]
    printing: bool
    locked: bool
    multiplied: bool = False
    name: str = ""
    rank: tuple[int, bool] = (0, True)
    home: Home | None = None
    dark: Drawing | None = None
    mixed: bool = False

    @property
    def bounds(self) -> Bounds:
        """The upright box around it on its page, in points."""
        w, h = self.drawing.width, self.drawing.height
        corners = [self.matrix.apply(x, y) for x, y in ((0, 0), (w, 0), (w, h), (0, h))]
        xs, ys = [c[0] for c in corners], [c[1] for c in corners]
        return Bounds(min(xs), min(ys), max(xs), max(ys))


class Scene:
    """One page or one face of a master.  Scenes are compared by identity.

    `placed` is what stands there; `painted` is all that is seen there, which is also what reaches
    over the spine from the page that faces it, if it is `faced` by one.
    """

    __slots__ = (
        "bleed", "faced", "height", "holder_id", "is_master", "painted", "placed", "side", "width",
    )  # fmt: skip

    def __init__(
        self,
        holder_id: str,
        side: Side,
        size: tuple[float, float],
        bleed: float,
        placed: tuple[Placed, ...],
        is_master: bool = False,
        faced: bool = False,
    ) -> None:
        self.holder_id = holder_id
        self.side = side
        self.width, self.height = size
        self.bleed = bleed
        self.placed = self.painted = placed
        self.is_master = is_master
        self.faced = faced

    def with_painted(self, painted: tuple[Placed, ...]) -> Scene:
        """The same page, on which more is seen than stands there."""
        size = self.width, self.height
        scene = Scene(
            self.holder_id, self.side, size, self.bleed, self.placed, self.is_master, self.faced
        )
        scene.painted = painted
        return scene

    def exchanged(self, new: Mapping[int, Placed]) -> Scene:
        """The same page with other drawings in place of some, by the identity of these."""
        size = self.width, self.height
        placed = tuple(new.get(id(p), p) for p in self.placed)
        scene = Scene(
            self.holder_id, self.side, size, self.bleed, placed, self.is_master, self.faced
        )
        scene.painted = tuple(new.get(id(p), p) for p in self.painted)
        return scene

    def rest(self) -> None:
        """Nobody looks at the page any more: what can be made again at little cost is let go."""
        for placed in self.placed:
            for primitive in placed.drawing.primitives:
                if isinstance(primitive, TextPrimitive):
                    primitive.text.rest()

    def text_of(self) -> list[str]:
        """Every printed line of text in painting order, for searching and for tests."""
        return [
            line.text
            for placed in self.placed
            if placed.printing
            for primitive in placed.drawing.primitives
            if isinstance(primitive, TextPrimitive)
            for line in primitive.text.lines[: primitive.shown]
            if line.text
        ]
