"""Items, and the overrides that change single properties of master items.

Coordinates are those of a recto page, origin at the trim's top left corner:
an item of a master is placed on a verso page by its `placing` (R3).  A local
item stands on its page as given.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Annotated, Any, Literal, NamedTuple

from msgspec import UNSET, Meta, Struct

from hidden_frame.model.geometry import Crop, Fit, Flip, NotNegative, Share
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.partly import open_fields, partly
from hidden_frame.model.text import Contents, FontSize, Index, NoteList, Text

Faces = Literal["both", "verso", "recto"]
Placing = Literal["mirrored", "repeated"]
Vertical = Literal["top", "middle", "bottom"]
Form = Literal["rectangle", "ellipse", "rounded"]
Blend = Literal["normal", "multiply"]


class Around(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """How text makes way for an item: for its `box`, its own `shape`, or the `outline` of what is
    not transparent of its picture, at a distance; on `both` of its sides, or the wider one."""

    shape: Literal["box", "shape", "outline"] = "box"
    offset: NotNegative = 6.0
    both: bool = False


class Insets(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a text frame keeps free at each of its sides."""

    top: NotNegative = 0.0
    bottom: NotNegative = 0.0
    left: NotNegative = 0.0
    right: NotNegative = 0.0


class _Item(
    Struct,
    frozen=True,
    kw_only=True,
    omit_defaults=True,
    tag_field="kind",
    forbid_unknown_fields=True,
):
    """What all items have; rotation in degrees clockwise about the item's middle.

    A `locked` item is not picked up on the desk; items of one `group` are picked together.
    An item that blends by `multiply` darkens what lies below; `around` makes text run
    around it (None: text runs over or under it).
    """

    id: str
    x: float
    y: float
    width: NotNegative
    height: NotNegative
    name: str = ""
    rotation: float = 0.0
    opacity: Share = 1.0
    visible: bool = True
    layer: str = "content"
    face: Faces = "both"
    placing: Placing = "mirrored"
    fill: Fill | None = None
    stroke: Stroke | None = None
    locked: bool = False
    group: str | None = None
    blend: Blend = "normal"
    around: Around | None = None


class TextFrame(
    _Item, frozen=True, kw_only=True, omit_defaults=True, tag="text", forbid_unknown_fields=True
):
    """A frame of text in columns; `inset` on all four sides alike, or on each its own.

    One that `grows` is as high as its text needs, and never lower than `height`.
    `snug` leaves out the space that the first paragraph's style asks for above it.
    One that `yields` makes way for items that text runs around.  A frame that is `main` is
    one through which the story of its page's section flows: 1 is the first on its page.
    The text of one with `contents`, or that is the `index` or lists `notes`, is worked out anew
    at each change.

    `text_style`, `text_colour` and `text_size` are the looks of all its words, whatever these say
    of themselves; None leaves them alone.  Where what is printed beneath it is dark, its words take
    the colour `on_dark`, if it names one.
    """

    text: Text = ()
    inset: NotNegative | Insets = 0.0
    vertical: Vertical = "top"
    grows: bool = False
    snug: bool = False
    columns: Annotated[int, Meta(ge=1, le=20)] = 1
    gutter: NotNegative = 12.0
    radius: NotNegative = 0.0
    yields: bool = True
    main: Annotated[int, Meta(ge=0, le=99)] = 0
    contents: Contents | None = None
    index: Index | None = None
    notes: NoteList | None = None
    text_style: str | None = None
    text_colour: str | None = None
    text_size: FontSize | None = None
    on_dark: str | None = None

    @property
    def lists(self) -> bool:
        """Whether its text is worked out."""
        return not (self.contents is None and self.index is None and self.notes is None)

    @property
    def insets(self) -> Insets:
        """What is kept free at each side, in points."""
        if isinstance(self.inset, Insets):
            return self.inset
        all_round = self.inset
        return Insets(top=all_round, bottom=all_round, left=all_round, right=all_round)


class PictureFrame(
    _Item, frozen=True, kw_only=True, omit_defaults=True, tag="picture", forbid_unknown_fields=True
):
    """A frame that shows a picture by content hash, or nothing yet.

    `crop` places the picture where `fit` is "free"; `flip` mirrors it within its place.  Where
    what lies beneath is dark it shows `picture_on_dark`, if there is one.
    """

    picture: str | None = None
    picture_on_dark: str | None = None
    flip: Flip = "no"
    fit: Fit = "fit"
    crop: Crop | None = None
    radius: NotNegative = 0.0


class Shape(
    _Item, frozen=True, kw_only=True, omit_defaults=True, tag="shape", forbid_unknown_fields=True
):
    """A rectangle, an ellipse, or a rectangle with corners rounded by `radius`."""

    form: Form = "rectangle"
    radius: NotNegative = 12.0


class Line(
    _Item, frozen=True, kw_only=True, omit_defaults=True, tag="line", forbid_unknown_fields=True
):
    """A line of length `width` from left to right, turned by `rotation` about its
    middle; its height is 0, so mirroring it at the spine mirrors its slope too."""


Item = TextFrame | PictureFrame | Shape | Line

COMMON = (
    "name", "x", "y", "width", "height", "rotation", "opacity", "visible", "layer", "fill",
    "stroke", "blend", "around",
)  # fmt: skip


class ItemKind(NamedTuple):
    """What the model knows of a kind of items: the word that an item without a name is called by,
    the properties that a page may override besides those of all, whether it is `level` (a line: it
    has no height), and whether other proportions do no harm to an item of it."""

    word: str
    overridable: tuple[str, ...] = ()
    level: bool = False
    elastic: Callable[[Any], bool] = lambda item: True


# A new kind is a class, a part of `Item`, and a row here; what it looks like is a row of
# `compose/kinds.py`.
KINDS: dict[type, ItemKind] = {
    TextFrame: ItemKind("Text", (
        "text", "inset", "vertical", "grows", "snug", "columns", "gutter", "radius", "yields",
        "main", "text_style", "text_colour", "text_size", "on_dark",
    )),
    PictureFrame: ItemKind(
        "Picture", ("picture", "fit", "crop", "radius", "picture_on_dark", "flip"),
        elastic=lambda item: False,
    ),
    Shape: ItemKind("Shape", ("form", "radius"), elastic=lambda item: item.form != "ellipse"),
    Line: ItemKind("Line", level=True),
}  # fmt: skip


def overridable(kind: type) -> tuple[str, ...]:
    """The properties of a kind's items that a page or derived master may override.

    >>> "form" in overridable(Shape), "form" in overridable(Line)
    (True, False)
    """
    return (*COMMON[1:], *KINDS[kind].overridable)


def is_level(item: Item) -> bool:
    """Whether an item is a line: it has a length, and no height.

    >>> is_level(Line(id="", x=0, y=0, width=90, height=0))
    True
    """
    return KINDS[type(item)].level


if TYPE_CHECKING:

    class Override(Struct, frozen=True, kw_only=True):
        item: str

        def __init__(self, *, item: str, **properties: Any) -> None: ...

        def __getattr__(self, name: str) -> Any: ...
else:
    Override = partly(
        "Override", __name__,
        """Single properties of a master item changed on one page or derived master (R10).

    >>> Override(item="item-7", x=72.0)
    Override(item='item-7', x=72.0, ...
    """,
        (("item", str),),
        open_fields(KINDS, dict.fromkeys(n for kind in KINDS for n in overridable(kind))),
    )  # fmt: skip


PICTURES = ("picture", "picture_on_dark")  # the properties of a frame that name a picture
TEXT_COLOURS = ("text_colour", "on_dark")  # the properties of a text frame that name a colour
OVERRIDE_FIELDS: tuple[str, ...] = tuple(f for f in Override.__struct_fields__ if f != "item")


def changed_properties(override: Override) -> dict[str, object]:
    """The properties that an override holds, by name."""
    values = ((name, getattr(override, name)) for name in OVERRIDE_FIELDS)
    return {name: value for name, value in values if value is not UNSET}
