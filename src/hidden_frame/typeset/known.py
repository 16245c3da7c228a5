"""Where the lines of paragraphs end, kept from one run of the program to the next.

To find it is nine tenths of laying out a book.  A paragraph is known by its text and by all that
its lines depend on (font files by what they hold, sizes, measure, the rules of its style, the code
that breaks it), so that what is known is right wherever it comes from, and an edit elsewhere takes
nothing away.  Only what was read from disk is given back: within one run set paragraphs are kept
themselves.

>>> known = KnownEnds()
>>> known.open(folder / "ends")
>>> key = known.key(known.look("Body"), "After rain.")
>>> known.put(key, Ends([1], [0]), fits=True)
>>> known.keep()
>>> again = KnownEnds()
>>> again.open(folder / "ends")
>>> again.get(key)
FoundEnds(ends=Ends(tokens=array('I', [1]), used=array('I', [0]), glued=False), fits=True)
"""

from __future__ import annotations

import os
from array import array
from contextlib import suppress
from functools import cache
from hashlib import blake2b
from pathlib import Path
from typing import NamedTuple

import msgspec
from platformdirs import user_cache_path

from hidden_frame.typeset.breaking.nodes import Ends

MOST = 60_000  # paragraphs that are kept; those that were asked for last
_SIZE = 16  # bytes of a key


class FoundEnds(NamedTuple):
    """Where lines end, and whether none of them stands out of the measure."""

    ends: Ends
    fits: bool


class _Entry(NamedTuple):
    tokens: bytes
    used: bytes
    fits: bool
    glued: bool


class _File(msgspec.Struct):
    code: bytes  # of the program that found it
    entries: dict[bytes, _Entry]


class KnownEnds:
    """What a file knows, and what is to be added to it; nothing where none is open."""

    def __init__(self) -> None:
        self._file: Path | None = None
        self._read = False
        self._known: dict[bytes, _Entry] = {}
        self._asked: dict[bytes, _Entry] = {}

    @property
    def is_open(self) -> bool:
        """Whether anything is known, or kept."""
        return self._file is not None

    def open(self, file: Path) -> None:
        """What is found from now on goes to this file, and comes from it; it is read when it is
        first asked."""
        self._file, self._read = file, False
        self._known, self._asked = {}, {}

    def close(self) -> None:
        """Keeps what was found, and knows nothing from then on."""
        self.keep()
        self._file = None
        self._known, self._asked = {}, {}

    def look(self, *parts: object) -> bytes:
        """All that lines depend on besides the text, as a key; `parts` say what they are when they
        are printed."""
        return blake2b(repr(parts).encode("utf-8", "surrogatepass"), digest_size=_SIZE).digest()

    def key(self, look: bytes, text: str) -> bytes:
        """The key of a paragraph of that look."""
        return blake2b(text.encode("utf-8", "surrogatepass"), digest_size=_SIZE, key=look).digest()

    def get(self, key: bytes) -> FoundEnds | None:
        """Where the lines of a paragraph end; None if nobody found out."""
        if not self._read and self._file is not None:
            self._known, self._read = _read(self._file), True
        entry = self._known.get(key)
        if entry is None:
            return None
        self._asked[key] = entry
        tokens, used = array("I"), array("I")
        tokens.frombytes(entry.tokens)
        used.frombytes(entry.used)
        return FoundEnds(Ends(tokens, used, entry.glued), entry.fits)

    def put(self, key: bytes, ends: Ends, fits: bool) -> None:
        """Where lines end that were not known."""
        if self._file is not None and len(self._asked) < MOST:
            tokens, used = array("I", ends.tokens), array("I", ends.used)
            self._asked[key] = _Entry(tokens.tobytes(), used.tobytes(), fits, ends.glued)

    def keep(self) -> None:
        """Writes what was found and asked for in front of what another run has found meanwhile.  A
        disk that takes nothing is no reason to stop."""
        asked = dict(self._asked)  # at a stroke: it may be kept beside the work
        if self._file is None or all(key in self._known for key in asked):
            return
        every = {**asked, **{k: e for k, e in _read(self._file).items() if k not in asked}}
        kept = dict(list(every.items())[:MOST])
        beside = self._file.with_name(f"{self._file.name}.{os.getpid()}")
        with suppress(OSError):
            body = msgspec.msgpack.encode(_File(code_digest(), kept))
            self._file.parent.mkdir(parents=True, exist_ok=True)
            beside.write_bytes(blake2b(body, digest_size=_SIZE).digest() + body)
            os.replace(beside, self._file)
            self._known |= asked


def ends_file() -> Path:
    """Where the program keeps it."""
    return user_cache_path("hidden-frame") / "layout" / "ends"


def _read(file: Path) -> dict[bytes, _Entry]:
    """What a file knows: nothing, if it is not whole, or of another program's code."""
    try:
        data = file.read_bytes()
        digest, body = data[:_SIZE], data[_SIZE:]
        if blake2b(body, digest_size=_SIZE).digest() != digest:
            return {}
        found = msgspec.msgpack.decode(body, type=_File)
        return found.entries if found.code == code_digest() else {}
    except (OSError, msgspec.MsgspecError):
        return {}


@cache
def code_digest() -> bytes:
    """What the code that breaks lines is, and the libraries that it shapes and divides words with:
    what another one has found is not known here."""
    import pyphen
    import uharfbuzz

    told = blake2b(digest_size=_SIZE)
    told.update(f"{uharfbuzz.version_string()} {uharfbuzz.__version__}".encode())
    patterns = Path(next(iter(pyphen.LANGUAGES.values()))).parent
    for path in sorted(patterns.glob("hyph_*.dic")):
        told.update(f"{path.name} {path.stat().st_size}".encode())
    folder = Path(__file__).parent
    for path in sorted(folder.rglob("*.py")):
        told.update(path.relative_to(folder).as_posix().encode())
        told.update(path.read_bytes())
    return told.digest()


KNOWN = KnownEnds()
