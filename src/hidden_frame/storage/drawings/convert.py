"""Drawings made into PDF, once each: remembered by what they hold, here and on disk."""

from __future__ import annotations

import subprocess
import sys
from collections import OrderedDict
from pathlib import Path
from typing import NamedTuple

from hidden_frame.kept import kept
from hidden_frame.model.errors import Refusal
from hidden_frame.resources import FALLBACK, FONTS
from hidden_frame.storage.drawings.guard import guarded

_CHILD = Path(__file__).with_name("child.py")
_SECONDS = 20
_KEPT = 48 * 1024 * 1024  # bytes of PDFs remembered in this process
VERSION = 2  # to be raised whenever a drawing would be made otherwise than before


class Drawn(NamedTuple):
    """A drawing as a PDF of one page, and its size in points."""

    pdf: bytes
    size: tuple[float, float]


_memory: OrderedDict[str, Drawn] = OrderedDict()


def drawn(digest: str, data: bytes, name: str = "The drawing") -> Drawn:
    """The drawing of these bytes, whose hash is `digest`.

    Raises `Refusal` where it can't be drawn; that is not remembered.
    """
    found = _memory.get(digest)
    if found is None:
        safe = guarded(data, name)
        found = Drawn(_pdf(safe.data, name), safe.size)
        _memory[digest] = found
        while len(_memory) > 1 and sum(len(d.pdf) for d in _memory.values()) > _KEPT:
            _memory.popitem(last=False)
    _memory.move_to_end(digest)
    return found


def _pdf(data: bytes, name: str) -> bytes:
    return kept("drawings", data + str(VERSION).encode(), lambda: _convert(data, name), _whole)


def _whole(pdf: bytes) -> bool:
    return pdf.startswith(b"%PDF-") and b"%%EOF" in pdf[-32:]


def _convert(data: bytes, name: str) -> bytes:
    """Runs the engine in a process of its own, which can harm nobody."""
    command = [sys.executable, "-I", "-B", str(_CHILD), str(FONTS), str(FALLBACK)]
    try:
        done = subprocess.run(command, input=data, capture_output=True, timeout=_SECONDS)
    except subprocess.TimeoutExpired as error:
        raise Refusal(f"“{name}” takes too long to draw; make it simpler.") from error
    except OSError as error:
        raise Refusal(f"“{name}” can't be drawn here ({error.strerror}).") from error
    if done.returncode < 0 or b"MemoryError" in done.stderr or b"memory allocation" in done.stderr:
        raise Refusal(f"“{name}” needs more than this machine may give it; make it simpler.")
    if done.returncode or not done.stdout.startswith(b"%PDF-"):
        lines = done.stderr.decode("utf-8", "replace").strip().splitlines()
        reason = lines[-1].partition(": ")[2] or lines[-1] if lines else "no reason was given"
        raise Refusal(f"“{name}” can't be drawn ({reason[:120]}); save it anew and place it again.")
    return done.stdout
