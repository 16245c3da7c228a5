"""A picture frame's picture, and where it lies in the frame."""

from __future__ import annotations

from hidden_frame.compose.outlines import corner_radius, rounded
from hidden_frame.compose.scene import PicturePrimitive, Placeholder, Primitive, Rect
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.publication import Picture


def picture_primitive(
    item: PictureFrame, pictures: tuple[Picture, ...], dark: bool = False
) -> Primitive:
    """A picture frame's picture, or what holds its place, in the frame's own coordinates; on `dark`
    ground the one that is meant for it."""
    shown = item.picture_on_dark if dark and item.picture_on_dark else item.picture
    picture = next((p for p in pictures if p.hash == shown), None)
    if picture is None:
        return Placeholder((0.0, 0.0, item.width, item.height), "Picture")
    rect = picture_rect(picture, item)
    outline = rounded(item.width, item.height, corner_radius(item))
    turned = picture.orientation
    return PicturePrimitive(
        picture.hash,
        picture.kind,
        rect,
        outline,
        item.opacity,
        turned,
        picture.tones,
        item.flip,
    )


def picture_rect(picture: Picture, item: PictureFrame) -> Rect:
    """Where a picture lies in its frame, by the frame's fit: x, y, width, height in points.

    "fit" shows all of it, "fill" leaves no part of the frame empty; "actual" has the size
    that the file asks for; these three stand in the middle.  "free" goes by the crop.
    """
    if item.fit == "stretch":
        return (0.0, 0.0, item.width, item.height)
    width, height = picture.size
    if item.fit == "free" and item.crop is not None:
        crop = item.crop
        return (crop.x, crop.y, width * crop.scale, height * crop.scale)
    scale = 1.0
    if item.fit in ("fit", "fill"):
        scales = (item.width / width, item.height / height)
        scale = min(scales) if item.fit == "fit" else max(scales)
    w, h = width * scale, height * scale
    return ((item.width - w) / 2, (item.height - h) / 2, w, h)


def effective_resolution(picture: Picture, item: PictureFrame) -> tuple[float, float] | None:
    """Pixels to an inch as placed, across and down; None for a drawing, which has none.

    >>> shot = Picture(hash="0" * 64, name="shot.jpg", kind="jpg", width=1200, height=900)
    >>> effective_resolution(shot, PictureFrame(id="f", x=0, y=0, width=288, height=216))
    (300.0, 300.0)
    """
    if picture.kind == "svg":
        return None
    _, _, w, h = picture_rect(picture, item)
    if w <= 0 or h <= 0:
        return None
    return picture.width * 72 / w, picture.height * 72 / h


def moved(primitive: Primitive, x: float, y: float) -> Primitive:
    """A picture, or what holds its place, somewhere else (points)."""
    if isinstance(primitive, Placeholder):
        left, top, width, height = primitive.rect
        return primitive._replace(rect=(left + x, top + y, width, height))
    assert isinstance(primitive, PicturePrimitive)
    left, top, width, height = primitive.rect
    return primitive._replace(
        rect=(left + x, top + y, width, height),
        clip=tuple(_moved(command, x, y) for command in primitive.clip),
    )


def _moved(command: tuple, x: float, y: float) -> tuple:
    """A path command elsewhere: its numbers are x and y in turn."""
    name, *at = command
    return (name, *(v + (y if n % 2 else x) for n, v in enumerate(at)))
