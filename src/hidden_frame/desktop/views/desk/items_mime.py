"""Items on the clipboard, and pictures among what it holds."""

from __future__ import annotations

import msgspec
from PySide6.QtCore import QMimeData

from hidden_frame.edit.carry.items import Clip
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.storage.door import from_clipboard

ITEMS_MIME = "application/x-hidden-frame-items"


class Parcel(msgspec.Struct, frozen=True):
    """What goes to the clipboard: a clip, the bytes of its pictures, and the side it is from.

    `told` is the same clip with the words that its frames show of stories; it is for other
    publications.  Within the one of `home` it is asked what copies of those frames show.
    """

    clip: Clip
    blobs: dict[str, bytes]
    side: Side = "recto"
    home: str = ""
    holder: str = ""
    items: tuple[str, ...] = ()
    told: Clip | None = None


def anchorable(data: QMimeData | None) -> Parcel | None:
    """A single picture or caption that was copied; None for anything else."""
    if data is None or not data.hasFormat(ITEMS_MIME):
        return None
    try:
        parcel = from_clipboard(bytes(data.data(ITEMS_MIME).data()), Parcel)
    except Refusal:
        return None
    items = parcel.clip.items
    alone = len(items) == 1 and isinstance(items[0], PictureFrame | TextFrame)
    return parcel if alone and parcel.told is None else None
