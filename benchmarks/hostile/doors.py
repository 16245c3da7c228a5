"""The doors through which something comes in, each as a function that may only refuse."""

from __future__ import annotations

import hashlib
from typing import Any

import msgspec

from benchmarks.whole_file import to_bytes
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.carry.items import Clip, clip_of
from hidden_frame.interact.hands.shown import pasted_as_shown
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.model.valid import check_change
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.storage.door import MOST_TOLD, from_clipboard
from hidden_frame.storage.format import Opened, from_bytes
from hidden_frame.storage.pictures import picture_from_bytes


class Parcel(msgspec.Struct, frozen=True):
    """What the window puts on the clipboard of items, as far as it matters here."""

    clip: Clip
    blobs: dict[str, bytes] = {}


def opened(file: bytes, printed: bool = False) -> Opened:
    """A file opened, its pages laid out, perhaps printed, and saved again as it was."""
    found = from_bytes(file, "mutated.hframe")
    composition = Composer().compose(found.publication)
    for page in all_pages(found.publication)[:8]:
        composition.scene(page.id)
    if printed:
        pdf_bytes(composition, found.blobs)
    again = from_bytes(to_bytes(found.publication, found.blobs), "again.hframe")
    assert again.publication == found.publication
    return found


def pasted(publication: Publication, packed: bytes) -> Publication:
    """A parcel from the clipboard put on the first page, as the window does it."""
    from hidden_frame.storage.door import COPIED, door

    with door(COPIED):
        parcel = from_clipboard(packed, Parcel)
        page = all_pages(publication)[0].id
        made, _ = pasted_as_shown(publication, page, "recto", parcel.clip, 12, 12)
        check_change(publication, made)
        Composer().compose(made).scene(page)
    return made


def parcel_of(publication: Publication, blobs: dict[str, bytes]) -> bytes:
    """The items of a publication that has much on its pages, packed as for the clipboard."""
    items = [item for page in all_pages(publication)[3:9] for item in page.items]
    clip = clip_of(publication, items)
    wanted = {p.hash for p in clip.pictures}
    return msgspec.msgpack.encode(Parcel(clip, {h: b for h, b in blobs.items() if h in wanted}))


def with_drawing(publication: Publication, data: bytes) -> tuple[Publication, dict[str, bytes]]:
    """A publication whose first drawing is this one, however it came in."""
    digest = hashlib.sha256(data).hexdigest()
    old = next(p for p in publication.pictures if p.kind == "svg")
    new = msgspec.structs.replace(old, hash=digest)
    text = msgspec.json.encode(publication).replace(old.hash.encode(), digest.encode())
    changed = msgspec.json.decode(text, type=Publication)
    return changed, {new.hash: data}


def placed(data: bytes, name: str) -> Picture:
    return picture_from_bytes(data, name)[0]


def is_short(refusal: Exception) -> bool:
    """Whether a refusal is at most three lines."""
    return len(str(refusal)) <= MOST_TOLD and str(refusal).count("\n") < 3


def changed_values(packed: bytes, draw: Any, values: list[Any]) -> bytes:
    """A parcel with some of its values changed to any others."""
    from benchmarks.hostile.mutated import places

    tree = msgspec.msgpack.decode(packed)
    for _ in range(draw.choice([1, 1, 2, 6])):
        holder, key = draw.choice(places(tree))
        holder[key] = draw.choice([*values, float("nan"), float("inf")])
    return msgspec.msgpack.encode(tree)
