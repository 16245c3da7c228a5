"""Characters found by their name, their block, or their likeness to another one.

>>> found("em dash", "", None)[0]
'—'
>>> "é" in found("e", "", None)
True
"""

from __future__ import annotations

import re
import unicodedata
from functools import cache
from typing import NamedTuple

from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.shaping import Lettering, shape

MOST = 400
# Names as people use them, and the code points that they mean: Unicode's blocks, some joined.
BLOCKS: dict[str, tuple[tuple[int, int], ...]] = {
    "Spaces and breaks": ((0xA0, 0xA0), (0xAD, 0xAD), (0x2000, 0x200F), (0x2028, 0x2029),
                          (0x202F, 0x202F), (0x205F, 0x2060)),
    "Dashes and quotes": ((0x2010, 0x201F), (0xAB, 0xAB), (0xBB, 0xBB), (0x2039, 0x203A)),
    "Punctuation": ((0xA1, 0xBF), (0x2020, 0x2027), (0x2030, 0x205E)),
    "Latin": ((0xC0, 0x24F), (0x1E00, 0x1EFF), (0xFB00, 0xFB06)),
    "Greek": ((0x370, 0x3FF), (0x1F00, 0x1FFF)),
    "Cyrillic": ((0x400, 0x52F),),
    "Hebrew": ((0x590, 0x5FF),),
    "Arabic": ((0x600, 0x6FF),),
    "Currency": ((0x20A0, 0x20C0), (0xA2, 0xA5)),
    "Raised, lowered, fractions": ((0xB2, 0xB3), (0xB9, 0xB9), (0xBC, 0xBE), (0x2070, 0x209C),
                                   (0x2150, 0x218B)),
    "Arrows": ((0x2190, 0x21FF),),
    "Mathematics": ((0x2200, 0x22FF), (0xD7, 0xD7), (0xF7, 0xF7), (0xB1, 0xB1)),
    "Signs": ((0x2100, 0x214F), (0x25A0, 0x26FF), (0x2700, 0x27BF)),
}  # fmt: skip
# What people say for characters whose names are unlike it (common usage).
_CALLED = {
    "\u00a0": "hard space non-breaking nbsp", "\u00ad": "soft hyphen discretionary",
    "\u2009": "narrow", "\u202f": "narrow hard space", "\u2011": "hard hyphen",
    "\u2028": "line break", "\u200b": "break opportunity", "\u2060": "no break joiner",
    "…": "dots", "×": "times", "÷": "divided", "°": "degree", "¶": "paragraph", "†": "dagger note",
    "•": "bullet point", "’": "apostrophe", "′": "prime minutes feet", "″": "seconds inches",
}  # fmt: skip


@cache
def _all() -> tuple[str, ...]:
    """Every character that can be found, in the order of the blocks."""
    ranges = [r for block in BLOCKS.values() for r in block]
    seen = dict.fromkeys(chr(n) for first, last in ranges for n in range(first, last + 1))
    return tuple(c for c in seen if unicodedata.name(c, "") or c in _CALLED)


@cache
def _words(character: str) -> str:
    return f"{unicodedata.name(character, '')} {_CALLED.get(character, '')}".lower()


def name_of(character: str) -> str:
    """“Em dash · U+2014”."""
    name = unicodedata.name(character, "no name").capitalize()
    return f"{name} · U+{ord(character):04X}"


def has(face: FontFace, character: str) -> bool:
    """Whether a font has a character; blanks are made of any font's space."""
    return character in face.unicodes or unicodedata.category(character) in ("Zs", "Cf", "Zl")


# What changes how one letter is drawn (OpenType, registered features).
_FORMS = re.compile(r"aalt|salt|ss\d\d|cv\d\d|swsh|cswh|hist|ornm|titl|zero|nalt")
_MOST_FORMS = 24


class OtherForm(NamedTuple):
    """Another form of a character: the feature that asks for it, as a look has it, and what its
    kind is called."""

    alternate: str
    called: str


def forms(face: FontFace, character: str) -> list[OtherForm]:
    """The other forms that a font has of a character, each drawing once."""
    if len(character) != 1 or character not in face.unicodes or "GSUB" not in face.tables:
        return []
    records = face.tables["GSUB"].table.FeatureList.FeatureRecord
    tags = sorted({r.FeatureTag for r in records if _FORMS.fullmatch(r.FeatureTag)}, key=_order)
    seen = {shape(face, character).glyphs}
    found: list[OtherForm] = []
    for tag in tags:
        for number in range(1, _MOST_FORMS):
            alternate = tag if number == 1 else f"{tag}={number}"
            glyphs = shape(face, character, manner=Lettering((alternate,))).glyphs
            if glyphs in seen and number > 1:
                break
            if glyphs not in seen:
                seen.add(glyphs)
                found.append(OtherForm(alternate, _called(tag)))
    return found[:_MOST_FORMS]


def _order(tag: str) -> tuple[bool, str]:
    """Features that mean something before the one that lists all forms."""
    return tag in ("aalt", "nalt"), tag


def _called(tag: str) -> str:
    if tag[:2] == "ss":
        return f"Stylistic set {int(tag[2:])}"
    names = {"swsh": "Swash", "cswh": "Swash", "hist": "Historical", "ornm": "Ornament",
             "titl": "Titling", "zero": "Slashed zero"}  # fmt: skip
    return names.get(tag, "Alternate")


def found(query: str, block: str, face: FontFace | None) -> list[str]:
    """The characters whose names hold all words of a query, whose code it is, or which are like
    it, being the same letter with marks; of a block ("": all), and of a font if one is given."""
    among = _of_block(block)
    words = query.strip()
    code = re.fullmatch(r"(?:[uU]\+|0x)?([0-9a-fA-F]{4,6})", words)
    if code and int(code[1], 16) <= 0x10FFFF and not 0xD800 <= int(code[1], 16) <= 0xDFFF:
        chosen = [chr(int(code[1], 16))]
    elif len(words) == 1:
        chosen = [words] if words not in among and words.isprintable() else []
        chosen += [c for c in among if c == words or _base(c) == _base(words)]
    else:
        parts = words.lower().split()
        asked = [re.compile(rf"\b{re.escape(part)}") for part in parts]
        chosen = [c for c in among if all(each.search(_words(c)) for each in asked)]
    kept = [c for c in chosen if face is None or has(face, c)]
    if len(words) == 1:
        kind = unicodedata.category(words)
        return sorted(kept, key=lambda c: (c != words, unicodedata.category(c) != kind, c))[:MOST]
    shortest = sorted(kept, key=lambda c: len(unicodedata.name(c, "")))
    return shortest[:MOST] if words else kept[:MOST]


def _of_block(block: str) -> list[str]:
    if block not in BLOCKS:
        return list(_all())
    ranges = BLOCKS[block]
    return [c for c in _all() if any(first <= ord(c) <= last for first, last in ranges)]


@cache
def _base(character: str) -> str:
    """A letter without its marks, small."""
    return unicodedata.normalize("NFKD", character)[:1].lower()
