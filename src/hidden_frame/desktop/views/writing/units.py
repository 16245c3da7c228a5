"""Qt counts a string by UTF-16 units, a text by characters.

>>> to_units("a🌊b", 2), from_units("a🌊b", 3)
(3, 2)
"""

from __future__ import annotations


def to_units(string: str, offset: int) -> int:
    """So many characters of a string as UTF-16 units."""
    if string.isascii():
        return min(offset, len(string))
    return sum(2 if c > "\uffff" else 1 for c in string[:offset])


def from_units(string: str, units: int) -> int:
    """So many units of a string as characters; half of one counts as none."""
    if string.isascii():
        return min(units, len(string))
    for offset, character in enumerate(string):
        units -= 2 if character > "\uffff" else 1
        if units < 0:
            return offset
    return len(string)
