"""Reads plain text in any encoding; the likely one is found out and can be chosen otherwise."""

from __future__ import annotations

import re
from typing import NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.gathering import Gathering
from hidden_frame.storage.manuscripts.manuscript import Manuscript

_PROBE = 400_000  # bytes that are looked at


_LATIN = {"cp1250", "cp1252", "latin_1", "iso8859_1", "iso8859_2", "iso8859_15", "cp1254", "cp1257",
          "cp437", "cp850", "cp858", "mac_roman", "mac_latin2", "hp_roman8"}  # fmt: skip
_SIGN_IN_WORD = re.compile(r"(?<=\w)[^\w\s’'\-–—.,;:!?()/&@_\"“”]|[¹²³ªº](?=\w)|(?<=[a-z])[A-Z¹²³]")


class Decoded(NamedTuple):
    """A text, and the encoding that it was taken to be in."""

    text: str
    encoding: str


def decoded(data: bytes, name: str, encoding: str = "") -> Decoded:
    """The text of a file, in the encoding given or else the likely one; raises `Refusal` for
    bytes that are no text in it."""
    if encoding:
        try:
            return Decoded(data.decode(encoding), encoding)
        except (UnicodeDecodeError, LookupError) as error:
            raise Refusal(
                f"“{name}” contains bytes that aren’t text in {encoding}; choose another encoding."
            ) from error
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return decoded(data, name, "utf-16")
    try:
        return Decoded(data.decode("utf-8-sig"), "utf-8")
    except UnicodeDecodeError:
        pass
    if b"\0" in data[:_PROBE]:
        raise Refusal(f"“{name}” is not a text file; choose one, or save it as text.")
    from charset_normalizer import from_bytes

    probe = data[:_PROBE]
    best = from_bytes(probe).best()
    likely = best.encoding if best is not None else "cp1252"
    if likely in _LATIN:  # which they look alike in; a sign within a word tells the wrong one
        likely = min(("cp1252", "cp1250", likely), key=lambda each: _signs_in_words(probe, each))
    try:
        return Decoded(data.decode(likely), likely)
    except (UnicodeDecodeError, LookupError):
        return Decoded(data.decode("cp1252", errors="replace"), "cp1252")


def _signs_in_words(probe: bytes, encoding: str) -> int:
    """How many signs stand within words if a text is taken to be in an encoding."""
    return len(_SIGN_IN_WORD.findall(probe.decode(encoding, errors="replace")))


def read_plain(text: str, name: str) -> Manuscript:
    """A line a paragraph, as they are written today; where empty lines part paragraphs whose
    lines are broken by hand, the lines of one are joined."""
    into = Gathering()
    lines = text.replace("\r\n", "\n").replace("\r", "\n").replace("\u2029", "\n").split("\n")
    for paragraph in _paragraphs(lines):
        into.put(paragraph)
        into.end("Normal")
    return into.done(name)


def _paragraphs(lines: list[str]) -> list[str]:
    filled = [line for line in lines if line.strip()]
    gaps = sum(not line.strip() for line in lines[:-1])
    wrapped = gaps >= 2 and len(filled) > 2 * gaps and max(map(len, filled)) <= 90
    if not wrapped:
        return [line.rstrip() for line in lines if line.strip()]
    found, at = [], []
    for line in [*lines, ""]:
        if line.strip():
            at.append(line.strip())
        elif at:
            found.append(" ".join(at))
            at = []
    return found
