"""Fonts embedded in a PDF by glyph id, so that what was shaped is what is printed.

A font becomes a Type 0 font with Identity-H encoding over a subset that keeps its glyph ids
(ISO 32000-1, 9.7).  Where one glyph stands for different texts, each has a code of its own
that leads to the same glyph, so that the ToUnicode map spells every text as it was typed.
"""

from __future__ import annotations

import io
import struct
from functools import cached_property, lru_cache
from itertools import count
from typing import Any, NamedTuple

from fontTools import subset
from fontTools.ttLib import TTFont
from pikepdf import Array, Dictionary, Name

from hidden_frame.output.pdf.operators import number
from hidden_frame.output.pdf.readback import ReadBack, in_turn, spread
from hidden_frame.output.pdf.store import Store, pdf_name
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.fonts.machine import keeps_whole
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN
from hidden_frame.typeset.shaping import Shaped, Word

Pieces = list[tuple[float, str]]  # how far each part of a word is raised, in font units; its code
_CODES = 0xFFFF


class Coded(NamedTuple):
    """A word's codes: in one string where all its glyphs stand on the line, in pieces, and
    whether they spell its text; the word is kept, since its identity names it."""

    plain: str | None
    pieces: Pieces
    spelt: bool
    shaped: Shaped


class EmbeddedFont:
    """A face in one PDF: the codes of its glyphs, and the text that each stands for."""

    def __init__(self, face: FontFace) -> None:
        self.face = face
        self.per_unit = 1000 / face.upem
        tables = face.tables
        self.is_cff = "glyf" not in tables
        metrics = tables["hmtx"].metrics
        self._advance = [metrics[name][0] for name in tables.getGlyphOrder()]
        self._code_of: dict[tuple[int, str], int] = {}
        self._glyph: dict[int, int] = {}
        self._text: dict[int, str] = {}
        self._hexes: dict[tuple[int, str, int], str] = {}  # by glyph, its letter and advance
        self._free = count(len(self._advance))
        self.codes: dict[int, Coded] = {}  # by identity: words are shaped once and kept
        self.plain: dict[Word, str] = {}  # of words whose codes alone spell them, on the line
        self._blank = face.space if keeps_whole(tables) else 0  # a subset's glyph 0 is empty
        self.space_width = self._advance[face.space] * self.per_unit

    @cached_property
    def space(self) -> str:
        """The space in a TJ array."""
        return f"<{self._code(self.face.space, ' ')[0]:04X}>"

    def saying_space(self, mark: str) -> str:
        """A space behind which a mark stands that nobody sees."""
        code, _ = self._code(self.face.space, mark + " ")
        return f"<{code:04X}>"

    def code(self, shaped: Shaped) -> Coded:
        """A word in parts for TJ arrays, and whether its codes alone spell its text."""
        found = self.codes.get(id(shaped))
        if found is None:
            pieces, spelt = self._encode(shaped)
            level = not any(rise for rise, _ in pieces)
            plain = "".join(code for _, code in pieces) if level else None
            found = self.codes[id(shaped)] = Coded(plain, pieces, spelt, shaped)
        return found

    def saying(self, shaped: Shaped, said: ReadBack | str) -> Coded:
        """A word that says something else than its text: `readback.spread`, or a text of its own.
        Where there are no codes left for that, it says what it is."""
        own = _texts(shaped)
        texts = in_turn(said, len(own)) if isinstance(said, str) else spread(own, said)
        pieces, spelt = self._pieces(shaped, texts)
        return Coded(None, pieces, True, shaped) if spelt else self.code(shaped)

    def is_plain(self, word: Word) -> bool:
        """Whether a word is one string of codes that spell it, which `plain` then has."""
        if word not in self.plain:
            coded = self.code(word.shaped)
            if not coded.spelt or coded.plain is None:
                return False
            self.plain[word] = coded.plain
        return True

    def _code(self, glyph: int, text: str) -> tuple[int, bool]:
        """The code of a glyph that stands for a text, and whether it says so."""
        known = self._code_of.get((glyph, text))
        if known is not None:
            return known, True
        code = glyph
        if glyph in self._glyph:  # it already stands for another text
            # In a CFF font that is not keyed by CID code and glyph are one (ISO 32000-1, 9.7.4.2).
            code = _CODES + 1 if self.is_cff else next(self._free)
            if code > _CODES:
                return glyph, False
        self._code_of[glyph, text] = code
        self._glyph[code], self._text[code] = glyph, text
        return code, True

    def _encode(self, shaped: Shaped) -> tuple[Pieces, bool]:
        """Glyphs in hexadecimal, with kerning as TJ adjustments in 1/1000 em."""
        simple = self._simply(shaped)
        if simple is not None:
            return [(0, simple)], True
        pieces, spelt = self._pieces(shaped, _texts(shaped))
        return pieces, spelt and _alone(shaped)

    def _pieces(self, shaped: Shaped, texts: list[str]) -> tuple[Pieces, bool]:
        """The same, each glyph with what it is to say, and whether it does."""
        pieces: Pieces = []
        parts, run, height, spelt = [], "", 0, True
        offsets = shaped.offsets or ((0, 0),) * len(shaped.glyphs)
        rows = zip(shaped.glyphs, shaped.advances, offsets, texts, strict=True)
        for glyph, advance, (dx, dy), text in rows:
            if text == SOFT_HYPHEN and not advance:
                continue  # it is not printed, and nobody's text where no line ends
            glyph = glyph or self._blank  # nothing is printed for what no font has
            code, said = self._code(glyph, text)
            spelt = spelt and said
            if dx or dy != height:
                parts += [f"<{run}>" if run else "", _adjusted(-dx * self.per_unit)]
                run = ""
            if dy != height:
                pieces.append((height, "".join(parts[:-1])))
                parts, height = parts[-1:], dy
            run += f"{code:04X}"
            missing = (self._advance[glyph] + dx - advance) * self.per_unit
            if abs(missing) > 1e-6:
                parts += [f"<{run}>", _adjusted(missing)]
                run = ""
        parts.append(f"<{run}>" if run else "")
        pieces.append((height, "".join(parts)))
        return [(rise, code) for rise, code in pieces if code], spelt

    def _simply(self, shaped: Shaped) -> str | None:
        """Most words: a glyph for each letter, on the line, each with a code that says so."""
        text, glyphs = shaped.text, shaped.glyphs
        one_by_one = len(glyphs) == len(text) and len(set(shaped.clusters)) == len(text)
        odd = not one_by_one or 0 in glyphs or shaped.rtl or SOFT_HYPHEN in text
        if shaped.offsets is not None or odd:
            return None
        keys = list(zip(glyphs, text, shaped.advances, strict=True))
        parts = [known if (known := self._hexes.get(key)) else self._hexed(*key) for key in keys]
        if "" in parts:
            return None
        return f"<{''.join(parts)}>".replace("<>", "")

    def _hexed(self, glyph: int, letter: str, advance: int) -> str:
        """A glyph that stands for a letter, and the kerning behind it; "" if no code says so."""
        code, said = self._code(glyph, letter)
        if not said:
            return ""
        missing = self._advance[glyph] - advance
        kern = f"> {number(round(missing * self.per_unit, 3))} <" if missing else ""
        made = self._hexes[glyph, letter, advance] = f"{code:04X}{kern}"
        return made

    def dictionary(self, store: Store) -> Any:
        """The font's entries, with its program and maps as objects of the file."""
        pdf = store.pdf
        base = pdf_name(f"{_tag(self._text)}+{self.face.name.replace(' ', '-')}")
        descendant = Dictionary(
            Type=Name.Font,
            Subtype=Name.CIDFontType0 if self.is_cff else Name.CIDFontType2,
            BaseFont=base,
            CIDSystemInfo=Dictionary(Registry=b"Adobe", Ordering=b"Identity", Supplement=0),
            FontDescriptor=pdf.make_indirect(self._descriptor(store, base)),
            DW=0,
            W=self._widths(),
        )
        if not self.is_cff:
            descendant.CIDToGIDMap = self._glyphs(store)
        return Dictionary(
            Type=Name.Font,
            Subtype=Name.Type0,
            BaseFont=base,
            Encoding=pdf_name("Identity-H"),
            DescendantFonts=Array([pdf.make_indirect(descendant)]),
            ToUnicode=pdf.make_indirect(store.stream(self._to_unicode().encode("ascii"))),
        )

    def _glyphs(self, store: Store) -> Any:
        """From codes to glyphs; the standard identity where no code was added."""
        if all(code == glyph for code, glyph in self._glyph.items()):
            return Name.Identity
        table = [0] * (max(self._glyph) + 1)
        for code, glyph in self._glyph.items():
            table[code] = glyph
        return store.pdf.make_indirect(store.stream(struct.pack(f">{len(table)}H", *table)))

    def _program(self, store: Store) -> tuple[str, Any]:
        """The font program, and the key it stands under (ISO 32000-1, table 126)."""
        glyphs = frozenset(self._glyph.values())
        data = _subset_bytes(self.face, glyphs)
        if self.is_cff:
            program = TTFont(io.BytesIO(data), lazy=True).reader["CFF "]
            return "/FontFile3", store.stream(program, Subtype=pdf_name("CIDFontType0C"))
        return "/FontFile2", store.stream(data, Length1=len(data))

    def _descriptor(self, store: Store, base: object) -> Any:
        tables, unit = self.face.tables, self.per_unit
        head, os2, post = tables["head"], tables["OS/2"], tables["post"]
        capital = getattr(os2, "sCapHeight", 0) or head.yMax * 0.7
        italic = 64 if head.macStyle & 2 else 0
        key, program = self._program(store)
        box = [round(v * unit) for v in (head.xMin, head.yMin, head.xMax, head.yMax)]
        return Dictionary(
            {
                "/Type": Name.FontDescriptor,
                "/FontName": base,
                "/Flags": 4 | italic,  # symbolic: its own encoding (ISO 32000-1, table 123)
                "/FontBBox": box,
                "/ItalicAngle": round(post.italicAngle, 2),
                "/Ascent": round(self.face.ascent * 1000),
                "/Descent": -round(self.face.descent * 1000),
                "/CapHeight": round(capital * unit),
                "/StemV": 80 if os2.usWeightClass < 600 else 140,
                key: store.pdf.make_indirect(program),
            }
        )

    def _widths(self) -> Any:
        """Advances by code, neighbours together (ISO 32000-1, 9.7.4.3)."""
        entries: list[Any] = []
        last = -2
        for code in sorted(self._glyph):
            width = round(self._advance[self._glyph[code]] * self.per_unit, 3)
            if code == last + 1:
                entries[-1].append(width)
            else:
                entries += [code, Array([width])]
            last = code
        return Array(entries)

    def _to_unicode(self) -> str:
        pairs = [
            f"<{code:04X}> <{text.encode('utf-16-be', 'replace').hex().upper()}>"
            for code, text in sorted(self._text.items())
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


def _texts(shaped: Shaped) -> list[str]:
    """The text of each glyph; of several glyphs for one text the first one has it."""
    starts = sorted(set(shaped.clusters))
    ends = dict(zip(starts, [*starts[1:], len(shaped.text)], strict=False))
    seen: set[int] = set()
    texts = []
    for cluster in shaped.clusters:
        texts.append("" if cluster in seen else shaped.text[cluster : ends[cluster]])
        seen.add(cluster)
    return texts


def _alone(shaped: Shaped) -> bool:
    """Whether every glyph has a text of its own."""
    return len(set(shaped.clusters)) == len(shaped.glyphs)


def _adjusted(value: float) -> str:
    return f" {number(round(value, 3))} " if abs(value) > 1e-6 else ""


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


_SHAPING = frozenset(("GSUB", "GPOS", "GDEF", "kern", "DSIG", "STAT", "meta", "BASE", "JSTF"))


@lru_cache(maxsize=32)
def _subset_bytes(face: FontFace, glyphs: frozenset[int]) -> bytes:
    """The font with these glyphs only, under the same ids; whole where its licence says so or
    where it can't be taken apart."""
    if keeps_whole(face.tables):
        return face.data
    options = subset.Options()
    options.retain_gids = True
    options.notdef_outline = False  # what no font has is told, and never printed as a box
    options.hinting = False
    options.desubroutinize = False
    try:
        font = TTFont(io.BytesIO(face.data))
        for tag in _SHAPING.intersection(font.keys()):  # what was shaped needs them no more
            del font[tag]
        subsetter = subset.Subsetter(options)
        subsetter.populate(gids=sorted(glyphs | {0}))
        subsetter.subset(font)
        buffer = io.BytesIO()
        font.save(buffer)
        return buffer.getvalue()
    except Exception:  # a fault in one glyph; a reader of PDFs may still do well
        return face.data
