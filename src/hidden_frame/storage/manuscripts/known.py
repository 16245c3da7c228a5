"""What manuscripts say in many ways: built-in styles in many languages, and fields of references.

The names that word processors give their built-in styles are from memory.
"""

from __future__ import annotations

import re

from hidden_frame.storage.manuscripts.manuscript import Referring

# English, German, French, Spanish, Italian, Portuguese, Dutch, Swedish, Danish and Norwegian,
# Polish, Czech, Russian.
_HEADINGS = (
    "heading", "überschrift", "titre", "título", "titolo", "encabezado", "kop", "rubrik",
    "overskrift", "nagłówek", "nadpis", "заголовок",
)  # fmt: skip
_HEADING = re.compile(rf"(?:{'|'.join(_HEADINGS)}) ?([1-9])", re.IGNORECASE)
_QUOTES = {
    "quote", "quotations", "block text", "intense quote", "block quotation", "zitat",
    "intensives zitat", "citation", "citation intense", "cita", "cita destacada", "citas",
    "citazione", "citazione intensa", "citação", "citação intensa", "citaat", "duidelijk citaat",
    "citat", "starkt citat", "stærkt citat", "sitat", "sterkt sitat", "cytat",
    "cytat intensywny", "citát", "citace", "výrazný citát", "цитата", "выделенная цитата",
}  # fmt: skip


_CAPTIONS = {
    "caption", "beschriftung", "bildunterschrift", "légende", "leyenda", "descripción",
    "didascalia", "legenda", "bijschrift", "bildtext", "beskrivning", "billedtekst", "bildetekst",
    "podpis", "titulek", "название объекта",
}  # fmt: skip


def known_style(name: str) -> str:
    """What a built-in style is called here: “Heading 2”, “Quote”, “Caption”; "" for another style.

    >>> known_style("Überschrift 2"), known_style("Zitat"), known_style("My style")
    ('Heading 2', 'Quote', '')
    """
    heading = _HEADING.fullmatch(name.strip())
    if heading is not None:
        return f"Heading {heading[1]}"
    word = name.strip().casefold()
    return "Quote" if word in _QUOTES else "Caption" if word in _CAPTIONS else ""


def listed_style(level: int, numbered: bool) -> str:
    """The style of a list's entries on a level, from 1.

    >>> listed_style(1, False), listed_style(3, True)
    ('List bullet', 'List number 3')
    """
    name = "List number" if numbered else "List bullet"
    return f"{name} {min(level, 9)}" if level > 1 else name


# Fields that show a paragraph's text, its number, or its page (ISO/IEC 29500-1, 17.16.5.51 and 45);
# the last of them, in no standard, is both.
_FIELD = re.compile(r'\s*(REF|PAGEREF)\s+"?([^\s"\\]+)"?((?:\s+\\.*)?)$', re.IGNORECASE)


def reference_of(instruction: str) -> Referring | None:
    """What a field refers to; None for a field of another kind."""
    found = _FIELD.match(instruction.strip())
    if found is None:
        return None
    if found[1].upper() == "PAGEREF":
        return Referring(found[2], "folio")
    switches = found[3].lower()
    if any(s in switches for s in ("\\r", "\\n", "\\w")):
        return Referring(found[2], "number and text" if "\\t" in switches else "number")
    return Referring(found[2], "text")


def field_of(referring: Referring) -> str:
    """The field that says so."""
    if referring.tells == "folio":
        return f"PAGEREF {referring.place} \\h"
    switch = {"number": " \\r", "number and text": " \\r \\t"}.get(referring.tells, "")
    return f"REF {referring.place}{switch} \\h"


_STANDS = ("in the line", "above the line", "inside", "outside")


def told_of(description: str) -> tuple[str, str]:
    """A picture's caption and how it stands, from what describes it: “Caption [in the line]”; both
    "" where another program wrote that."""
    for stands in _STANDS:
        if description.endswith(f"[{stands}]"):
            return description[: -len(stands) - 2].strip(), stands
    return "", ""


def described(caption: str, stands: str) -> str:
    """The same the other way round."""
    return f"{caption} [{stands}]".strip()
