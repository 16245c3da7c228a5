"""A picture moved and scaled within its frame.

>>> moved(Crop(0.0, 0.0, 0.5), 10.0, 0.0)
Crop(x=10.0, y=0.0, scale=0.5)
"""

from __future__ import annotations

import math

from msgspec.structs import replace

from hidden_frame.compose.pictures import picture_rect
from hidden_frame.model.geometry import Crop
from hidden_frame.model.items import Item, PictureFrame
from hidden_frame.model.plane.box import Box, Handle
from hidden_frame.model.plane.matrix import placement
from hidden_frame.model.publication import Picture, Publication

LEAST, MOST = 0.01, 100.0  # scales


def picture_of(publication: Publication, item: Item | None) -> Picture | None:
    """The picture that a frame shows; None for another item, or without a picture."""
    if not isinstance(item, PictureFrame):
        return None
    return next((p for p in publication.pictures if p.hash == item.picture), None)


def crop_of(item: PictureFrame, picture: Picture) -> Crop:
    """Where the picture lies now, as a crop, whatever the frame's fit is."""
    x, y, width, _ = picture_rect(picture, item)
    return Crop(x, y, max(width / picture.size[0], LEAST))


def moved(crop: Crop, dx: float, dy: float) -> Crop:
    """The picture moved in its frame, by points along the frame's own edges."""
    return replace(crop, x=crop.x + dx, y=crop.y + dy)


def rescaled(crop: Crop, scale: float, about: tuple[float, float]) -> Crop:
    """The picture at another scale; a point of the frame stays where it lies on the picture."""
    scale = max(LEAST, min(scale, MOST))
    by = scale / crop.scale
    return Crop(about[0] - (about[0] - crop.x) * by, about[1] - (about[1] - crop.y) * by, scale)


def pulled(crop: Crop, picture: Picture, handle: Handle, dx: float, dy: float) -> Crop:
    """The picture scaled by a handle that is pulled, the opposite one staying in place."""
    width, height = picture.size[0] * crop.scale, picture.size[1] * crop.scale
    across, down = handle
    grown = [
        1 + pull * way / length
        for pull, way, length in ((dx, across, width), (dy, down, height))
        if way
    ]
    by = max(grown, key=lambda g: abs(g - 1))
    fixed = (crop.x + width * (1 - across) / 2, crop.y + height * (1 - down) / 2)
    return rescaled(crop, crop.scale * max(by, 1e-6), fixed)


def picture_box(item: PictureFrame, picture: Picture) -> Box:
    """The whole picture's box on the page, turned as its frame is."""
    x, y, width, height = picture_rect(picture, item)
    matrix = placement(item.x, item.y, item.width, item.height, item.rotation)
    cx, cy = matrix.apply(x + width / 2, y + height / 2)
    return Box(cx - width / 2, cy - height / 2, width, height, item.rotation)


def within(item: Item, dx: float, dy: float) -> tuple[float, float]:
    """A way on the page as a way along the item's own edges."""
    angle = math.radians(-item.rotation)
    cos, sin = math.cos(angle), math.sin(angle)
    return dx * cos - dy * sin, dx * sin + dy * cos
