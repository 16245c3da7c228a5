"""The door: whatever comes from outside comes through here, and what is wrong with it is told.

>>> with door("notes.hframe"):
...     int("no number")
Traceback (most recent call last):
...
hidden_frame.model.errors.Refusal: “notes.hframe” is damaged (invalid literal for int() with \
base 10: 'no number'); use a copy of it if there is one.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import TypeVar

import msgspec

from hidden_frame.model.errors import Refusal

T = TypeVar("T")
MOST_TOLD = 280  # characters of a sentence: at most three lines
MOST_CLIP = 1024**3  # bytes that are taken from a clipboard
COPIED = "What was copied"


@contextmanager
def door(name: str, advice: str = "use a copy of it if there is one") -> Iterator[None]:
    """Whatever goes wrong within becomes a `Refusal` of at most three lines; `name` is what is
    read."""
    named = name if name == COPIED else f"“{short(name, 80)}”"
    try:
        yield
    except Refusal as refusal:
        told = str(refusal)
        if len(told) > MOST_TOLD:
            raise Refusal(short(told)) from refusal
        raise
    except MemoryError as error:
        raise Refusal(f"{named} needs more memory than there is.") from error
    except RecursionError as error:
        raise Refusal(f"{named} is nested too deeply to be read; {advice}.") from error
    except Exception as error:
        why = short(" ".join(str(error).split()), 100) or type(error).__name__
        raise Refusal(f"{named} is damaged ({why}); {advice}.") from error


def short(told: str, most: int = MOST_TOLD) -> str:
    """A sentence without its middle, if it is long: what it is about, and what to do."""
    if len(told) <= most:
        return told
    return f"{told[: most * 2 // 3]} … {told[3 + most * 2 // 3 - most :]}"


def from_clipboard(packed: bytes, kind: type[T]) -> T:
    """What another window, or any program, put on the clipboard.  Raises `Refusal`."""
    with door(COPIED, "copy it again"):
        if len(packed) > MOST_CLIP:
            raise Refusal("What was copied is over 1 GB; copy it in parts.")
        try:
            found = msgspec.msgpack.decode(packed, type=kind)
        except msgspec.MsgspecError as error:
            raise Refusal("What was copied can't be read here; copy it again.") from error
        check_pictures(getattr(found, "blobs", {}))
        return found


def check_pictures(blobs: Mapping[str, bytes]) -> None:
    """Raises `Refusal` for bytes that are not those of their name, and for a drawing that may not
    be shown."""
    for digest, data in blobs.items():
        if hashlib.sha256(data).hexdigest() != digest:
            raise Refusal("A copied picture is incomplete; copy it again.")
        if is_drawing(data):
            from hidden_frame.storage.drawings import guarded  # loads lxml

            guarded(data, "A drawing that was copied")


def is_drawing(data: bytes) -> bool:
    """Whether bytes are those of an XML file, as drawings are."""
    head = data[:400].lstrip()
    return head.startswith((b"<", b"\xef\xbb\xbf<", b"\xff\xfe<", b"\xfe\xff\0<"))
