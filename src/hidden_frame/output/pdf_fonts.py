"""Fonts embedded in a PDF by glyph id, so that what was shaped is what is printed.

A font becomes a Type 0 font with Identity-H encoding over a subset that keeps its
glyph ids (ISO 32000-1, 9.7), with a ToUnicode map that makes the text searchable.
"""

from __future__ import annotations

import io
from functools import lru_cache

from fontTools import subset
from fontTools.ttLib import TTFont
from reportlab.pdfbase import pdfdoc

from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.shaping import Shaped, Word


class EmbeddedFont:
    """A face in one PDF: which glyphs are used, and what text each stands for."""

    def __init__(self, face: FontFace, number: int) -> None:
        self.face = face
        self.name = f"HF{number}"
        self.per_unit = 1000 / face.upem
        self._text: dict[int, str] = {face.space: " "}
        self._code: dict[Shaped, tuple[str, bool]] = {}
        metrics = face.tables["hmtx"].metrics
        self._order = face.tables.getGlyphOrder()
        self._advance = [metrics[name][0] for name in self._order]
        self.space_advance = self._advance[face.space] * self.per_unit

    def code(self, word: Word) -> tuple[str, bool]:
        """The word inside a TJ array, and whether its glyphs alone spell its text."""
        shaped = word.shaped
        key = shaped
        found = self._code.get(key)
        if found is None:
            found = self._code[key] = (self._encode(shaped), self._learn(shaped))
        return found

    def advance(self, glyph: int) -> float:
        return self._advance[glyph] * self.per_unit

    def _encode(self, shaped: Shaped) -> str:
        """Glyphs in hexadecimal, with kerning as TJ adjustments in 1/1000 em."""
        parts, run = [], ""
        offsets = shaped.offsets or ((0, 0),) * len(shaped.glyphs)
        for glyph, advance, (dx, _) in zip(shaped.glyphs, shaped.advances, offsets, strict=True):
            if dx:
                parts += [f"<{run}>" if run else "", _number(-dx * self.per_unit)]
                run = ""
            run += f"{glyph:04X}"
            missing = (self._advance[glyph] + dx - advance) * self.per_unit
            if abs(missing) > 1e-6:
                parts += [f"<{run}>", _number(missing)]
                run = ""
        if run:
            parts.append(f"<{run}>")
        return "".join(_joined(parts))

    def _learn(self, shaped: Shaped) -> bool:
        """Notes the text of each glyph; False where a glyph already stands for another."""
        plain = True
        ends = [*shaped.clusters[1:], len(shaped.text)]
        for glyph, start, end in zip(shaped.glyphs, shaped.clusters, ends, strict=True):
            text = shaped.text[start:end]
            known = self._text.setdefault(glyph, text)
            plain = plain and known == text and bool(text)
        return plain

    def add_to(self, document: pdfdoc.PDFDocument) -> None:
        """Writes the font's objects and makes its name known to every page."""
        stream = pdfdoc.PDFStream(
            pdfdoc.PDFDictionary({"Length1": 0}), self._subset(), [pdfdoc.PDFZCompress]
        )
        data = stream.content
        stream.dictionary["Length1"] = len(data)
        base = pdfdoc.PDFName(f"{_tag(self._text)}+{self.face.name.replace(' ', '-')}")
        descriptor = pdfdoc.PDFDictionary(self._descriptor(base))
        descriptor["FontFile2"] = document.Reference(stream)
        descendant = pdfdoc.PDFDictionary(
            {
                "Type": pdfdoc.PDFName("Font"),
                "Subtype": pdfdoc.PDFName("CIDFontType2"),
                "BaseFont": base,
                "CIDSystemInfo": pdfdoc.PDFDictionary(
                    {
                        "Registry": pdfdoc.PDFString("Adobe"),
                        "Ordering": pdfdoc.PDFString("Identity"),
                        "Supplement": 0,
                    }
                ),
                "FontDescriptor": document.Reference(descriptor),
                "CIDToGIDMap": pdfdoc.PDFName("Identity"),
                "DW": 0,
                "W": self._widths(),
            }
        )
        unicode = pdfdoc.PDFStream(None, self._to_unicode(), [pdfdoc.PDFZCompress])
        font = pdfdoc.PDFDictionary(
            {
                "Type": pdfdoc.PDFName("Font"),
                "Subtype": pdfdoc.PDFName("Type0"),
                "BaseFont": base,
                "Encoding": pdfdoc.PDFName("Identity-H"),
                "DescendantFonts": pdfdoc.PDFArray([document.Reference(descendant)]),
                "ToUnicode": document.Reference(unicode),
            }
        )
        document.idToObject["BasicFonts"].dict[self.name] = document.Reference(font)

    def _subset(self) -> bytes:
        return _subset_bytes(str(self.face.path), frozenset(self._text))

    def _descriptor(self, base: object) -> dict[str, object]:
        tables, unit = self.face.tables, self.per_unit
        head, os2, post = tables["head"], tables["OS/2"], tables["post"]
        box = [round(v * unit) for v in (head.xMin, head.yMin, head.xMax, head.yMax)]
        capital = getattr(os2, "sCapHeight", 0) or head.yMax * 0.7
        italic = 64 if head.macStyle & 2 else 0
        return {
            "Type": pdfdoc.PDFName("FontDescriptor"),
            "FontName": base,
            "Flags": 4 | italic,  # symbolic: its own encoding (ISO 32000-1, table 123)
            "FontBBox": pdfdoc.PDFArray(box),
            "ItalicAngle": round(post.italicAngle, 2),
            "Ascent": round(self.face.ascent * 1000),
            "Descent": -round(self.face.descent * 1000),
            "CapHeight": round(capital * unit),
            "StemV": 80 if os2.usWeightClass < 600 else 140,
        }

    def _widths(self) -> object:
        entries: list[object] = []
        for glyph in sorted(self._text):
            entries += [glyph, pdfdoc.PDFArray([round(self.advance(glyph), 3)])]
        return pdfdoc.PDFArray(entries)

    def _to_unicode(self) -> str:
        pairs = [
            f"<{glyph:04X}> <{text.encode('utf-16-be').hex().upper()}>"
            for glyph, text in sorted(self._text.items())
            if text
        ]
        blocks = [pairs[n : n + 100] for n in range(0, len(pairs), 100)]
        body = "\n".join(
            f"{len(block)} beginbfchar\n" + "\n".join(block) + "\nendbfchar" for block in blocks
        )
        return (
            "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n"
            "/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n"
            "/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n"
            "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n"
            f"{body}\nendcmap\nCMapName currentdict /CMap defineresource pop\nend\nend"
        )


def _number(value: float) -> str:
    return f" {value:.3f}".rstrip("0").rstrip(".") + " "


def _joined(parts: list[str]) -> list[str]:
    return [part for part in parts if part]


def _tag(glyphs: dict[int, str]) -> str:
    """Six capitals that name a subset (ISO 32000-1, 9.6.4), the same for the same glyphs."""
    number = 0
    for glyph in sorted(glyphs):
        number = (number * 131 + glyph) % 26**6
    letters = ""
    for _ in range(6):
        number, digit = divmod(number, 26)
        letters += chr(ord("A") + digit)
    return letters


@lru_cache(maxsize=32)
def _subset_bytes(path: str, glyphs: frozenset[int]) -> bytes:
    options = subset.Options()
    options.retain_gids = True
    options.notdef_outline = True
    options.hinting = False
    options.drop_tables += ["GSUB", "GPOS", "GDEF", "kern", "DSIG", "STAT", "meta"]
    font = TTFont(path)
    subsetter = subset.Subsetter(options)
    subsetter.populate(gids=sorted(glyphs | {0}))
    subsetter.subset(font)
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
