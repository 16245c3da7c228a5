"""Which face sets which part of a text, where its own font lacks a character.

>>> from hidden_frame.typeset.fonts import font_book
>>> [(part, face.family) for part, face in stretches("a שלום b", font_book().face("Spectral"))]
[('a ', 'Spectral'), ('שלום', 'Noto Serif Hebrew'), (' b', 'Spectral')]
"""

from __future__ import annotations

import re
import unicodedata
from functools import lru_cache
from itertools import groupby

from hidden_frame.typeset.fonts.book import font_book
from hidden_frame.typeset.fonts.face import FontFace

# Characters that are never seen: Default_Ignorable_Code_Point (Unicode, DerivedCoreProperties)
# as far as it is assigned, and the controls, which HarfBuzz would show as missing.
_UNSEEN = (
    "\x00-\x1f\x7f-\x9f\u00ad\u034f\u061c\u115f\u1160\u17b4\u17b5\u180b-\u180f\u200b-\u200f"
    "\u2028-\u202e\u2060-\u206f\u3164\ufe00-\ufe0f\ufeff\uffa0\ufff0-\ufff8"
    "\U0001bca0-\U0001bca3\U0001d173-\U0001d17a\U000e0000-\U000e0fff"
)
_IGNORED = re.compile(f"[{_UNSEEN}]")
# A character with the marks that stand on it (Unicode UAX #29, grapheme clusters, simplified).
_BLANKS = frozenset("\u0020\u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008"
                    "\u2009\u200a\u202f\u205f\u3000")  # fmt: skip


def covers(face: FontFace, text: str) -> bool:
    """Whether a face has everything that can be seen of a text.

    HarfBuzz makes blanks of any width from the space, and composes or takes apart letters with
    their marks, so either form will do.
    """
    if face.unicodes.issuperset(text):
        return True
    seen = set(_IGNORED.sub("", text)) - _BLANKS
    if face.unicodes.issuperset(seen):
        return True
    seen_text = "".join(c for c in _IGNORED.sub("", text) if c not in _BLANKS)
    forms = (unicodedata.normalize("NFC", seen_text), unicodedata.normalize("NFD", seen_text))
    return any(face.unicodes.issuperset(form) for form in forms)


def stretches(text: str, face: FontFace) -> list[tuple[str, FontFace]]:
    """The text in parts, each with a face that has it; its own face where none has."""
    if face.unicodes.issuperset(text) or covers(face, text):
        return [(text, face)]
    return list(_stretches(text, face))


@lru_cache(maxsize=2_000)
def _stretches(text: str, face: FontFace) -> tuple[tuple[str, FontFace], ...]:
    clusters = _clusters(text)
    pairs = zip(clusters, _of_one_font(clusters, face), strict=True)
    parts: list[tuple[str, FontFace]] = []
    for _, group in groupby(pairs, key=lambda pair: id(pair[1])):  # one by one would be quadratic
        together = list(group)
        parts.append(("".join([cluster for cluster, _ in together]), together[0][1]))
    return tuple(_joined(parts))


def _of_one_font(clusters: list[str], face: FontFace) -> list[FontFace]:
    """The face of each cluster: the letters of a word in one script other than Latin stand in one
    font, also those that the word's own font has (common practice of the trade: fonts for Latin
    have some Greek letters as signs)."""
    known = {cluster: _face_for(cluster, face) for cluster in set(clusters)}
    faces = [known[cluster] for cluster in clusters]
    at = 0
    for script, group in groupby(map({c: _script(c) for c in known}.__getitem__, clusters)):
        end = at + len(list(group))
        other = next((f for f in faces[at:end] if f is not face), None)
        if script is not None and other is not None:
            for n in range(at, end):
                if faces[n] is face and covers(other, clusters[n]):
                    faces[n] = other
        at = end
    return faces


@lru_cache(maxsize=10_000)
def _script(cluster: str) -> str | None:
    """The script of a letter, with which its name begins, if it is not Latin; None for anything
    else."""
    if cluster[0] < "\u0370" or not cluster[0].isalpha():
        return None
    name = unicodedata.name(cluster[0], "").partition(" ")[0]
    return None if name == "LATIN" else name or None


def _joined(parts: list[tuple[str, FontFace]]) -> list[tuple[str, FontFace]]:
    """Spaces between two words of one font are that font's too."""
    found: list[tuple[str, FontFace]] = []
    for n, (text, face) in enumerate(parts):
        between = 0 < n < len(parts) - 1 and parts[n - 1][1] is parts[n + 1][1]
        if between and _BLANKS.issuperset(text) and parts[n - 1][1].unicodes.issuperset(text):
            face = parts[n - 1][1]
        if found and found[-1][1] is face:
            found[-1] = (found[-1][0] + text, face)
        else:
            found.append((text, face))
    return found


def _clusters(text: str) -> list[str]:
    marks = {
        character for character in set(text)
        if unicodedata.category(character)[0] == "M" or _IGNORED.match(character)
    }  # fmt: skip
    if not marks:
        return list(text)
    clusters: list[str] = []
    for character in text:
        if clusters and character in marks:
            clusters[-1] += character
        else:
            clusters.append(character)
    return clusters


@lru_cache(maxsize=20_000)
def _face_for(cluster: str, face: FontFace) -> FontFace:
    if covers(face, cluster):
        return face
    for other in font_book().reserve(face.bold, face.italic):
        if covers(other, cluster):
            return other
    return face
