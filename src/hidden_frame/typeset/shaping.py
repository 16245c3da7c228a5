"""Words shaped by HarfBuzz, once for each font, and measured, once for each setting.

>>> from hidden_frame.typeset.fonts import font_book
>>> setting = setting_of(font_book().face("Spectral"), size=10.0)
>>> round(setting.word("office").width, 2)
25.0
"""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from functools import cache, cached_property
from itertools import accumulate, pairwise
from typing import NamedTuple

import uharfbuzz as hb

from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.hyphenation import Dividing

_FEATURES: dict[bool, dict[str, int]] = {
    on: {"kern": True, "liga": on, "clig": on} for on in (True, False)
}
# Controls, separators and halves of surrogate pairs are never seen: HarfBuzz is given a space
# without width for each, so that places in the text stay what they are.
_UNSEEN = dict.fromkeys((*range(32), *range(127, 160), 8232, 8233), 8203)
_MAX_WORDS = 60_000  # for each font; a long novel has fewer different words


def exact(length: float) -> float:
    """A length rounded to 2**-16 points (Knuth's scaled point), of which sums are exact in
    whatever order they are made."""
    return round(length * 65536) / 65536


class Shaped(NamedTuple):
    """Glyphs of a word in font units, with the index of the character each comes from."""

    text: str
    glyphs: tuple[int, ...]
    advances: tuple[int, ...]
    offsets: tuple[tuple[int, int], ...] | None
    clusters: tuple[int, ...]
    width: int
    rtl: bool = False  # its glyphs stand in the order of sight, its text in that of reading

    @property
    def missing(self) -> bool:
        """Whether a character of it is in no font here (glyph 0: OpenType, “.notdef”)."""
        return 0 in self.glyphs


class Word:
    """A shaped word at a size and tracking; its width in points."""

    __slots__ = ("setting", "shaped", "width")

    def __init__(self, shaped: Shaped, setting: Setting) -> None:
        self.shaped = shaped
        self.setting = setting
        self.width = exact(shaped.width * setting.across + setting.tracking * len(shaped.glyphs))

    @property
    def text(self) -> str:
        return self.shaped.text

    def dressed(self, setting: Setting) -> Word:
        """The same in another setting."""
        return setting.word(self.text, self.shaped.rtl)

    def like(self, text: str) -> Word:
        """Another text in the same setting and direction."""
        return self.setting.word(text, self.shaped.rtl)

    def stops(self) -> list[float]:
        """x of every caret place in the word, in points; one more than characters.

        The characters of a ligature share its width evenly.
        """
        if self.shaped.rtl:
            return self._stops_from_right()
        shaped, setting = self.shaped, self.setting
        count = len(shaped.text)
        if shaped.clusters == tuple(range(count)):  # a glyph for each character, as mostly
            across, tracking = setting.across, setting.tracking
            return [0.0, *accumulate([advance * across + tracking for advance in shaped.advances])]
        starts: dict[int, float] = {}
        x = 0.0
        for cluster, advance in zip(shaped.clusters, shaped.advances, strict=True):
            starts.setdefault(cluster, x)
            x += advance * setting.across + setting.tracking
        marks = [*sorted(starts.items()), (count, x)]
        stops = [0.0] * (count + 1)
        for (a, xa), (b, xb) in pairwise(marks):
            stops[a] = xa
            for n in range(a + 1, b):
                stops[n] = xa + (xb - xa) * (n - a) / (b - a)
        stops[count] = x
        return stops

    def _stops_from_right(self) -> list[float]:
        shaped, setting = self.shaped, self.setting
        count = len(shaped.text)
        rights: dict[int, float] = {}  # by the first character of a cluster
        x = 0.0
        for cluster, advance in zip(shaped.clusters, shaped.advances, strict=True):
            x += advance * setting.across + setting.tracking
            rights[cluster] = x
        marks = [*sorted(rights.items()), (count, 0.0)]
        stops = [0.0] * (count + 1)
        for (a, xa), (b, xb) in pairwise(marks):
            for n in range(a, b):
                stops[n] = xa + (xb - xa) * (n - a) / (b - a)
        return stops


class Blank(Word):
    """A width without a glyph, on which something else stands; one character."""

    __slots__ = ()

    def __init__(self, text: str, width: float, setting: Setting) -> None:
        self.shaped = Shaped(text, (), (), None, (), 0)
        self.setting = setting
        self.width = exact(width)

    def dressed(self, setting: Setting) -> Word:
        return Blank(self.text, self.width, setting)

    def stops(self) -> list[float]:
        return [0.0, self.width]


class Lettering(NamedTuple):
    """How letters are taken from a font: OpenType features that are on besides the usual ones,
    by their tags, one of several forms as “salt=2”, and whether all are capitals."""

    features: tuple[str, ...] = ()
    capitals: bool = False


PLAIN = Lettering()


class Setting:
    """A font at a size, with tracking in points, `shift` points above the baseline; it
    remembers its words.

    Its glyphs are wider by `stretch` (1: as they are drawn); `scale` is from font units to
    points, and `across` the same for what lies from left to right.
    """

    def __init__(
        self, face: FontFace, size: float, tracking: float, manner: Lettering, shift: float,
        stretch: float = 1.0,
    ) -> None:  # fmt: skip
        self.face = face
        self.size = size
        self.tracking = tracking
        self.manner = manner
        self.shift = shift
        self.stretch = stretch
        self.scale = size / face.upem
        self.across = self.scale * stretch
        self.words: dict[str, Word] = {}
        self._rtl: dict[str, Word] = {}
        self._widths: dict[str, float] = {}
        # By language and word, where it may be divided and how wide its parts are then.
        self.divided: dict[Dividing, dict[str, list[tuple[int, float, float]]]] = {}

    def word(self, text: str, rtl: bool = False) -> Word:
        """A word, shaped from left to right or from right to left."""
        words = self._rtl if rtl else self.words
        found = words.get(text)
        if found is None:
            if len(words) >= _MAX_WORDS:
                words.clear()
                self._widths.clear()
                self.divided.clear()
            # Ligatures are off where letters are spaced (CSS Text 3, 8.2).
            shaped = shape(self.face, text, not self.tracking, self.manner, rtl)
            found = words[text] = Word(shaped, self)
        return found

    def width(self, text: str, rtl: bool = False) -> float:
        """How wide a word would be, in points; nothing else of it is kept."""
        known = (self._rtl if rtl else self.words).get(text)
        if known is not None:
            return known.width
        return Word(_shaped_anew(self.face, text, not self.tracking, self.manner, rtl), self).width

    def widths(self, texts: Sequence[str]) -> list[float]:
        """The widths of words, in points."""
        known = self._widths
        try:
            return list(map(known.__getitem__, texts))
        except KeyError:
            new = sorted(set(texts).difference(known))  # the same order in every run
            shape_all(self.face, new, not self.tracking, self.manner)
            for text in new:
                known[text] = self.word(text).width
        return list(map(known.__getitem__, texts))

    def know(self, texts: Collection[str]) -> None:
        """Shapes words together, which is quicker than each by itself when it is asked for."""
        new = sorted(set(texts).difference(self.words))
        if len(new) > _SEVERAL:
            shape_all(self.face, new, not self.tracking, self.manner)
        for text in new:
            self.word(text)

    def measured(self, texts: Sequence[str]) -> list[float]:
        """The widths of words in points, of which nothing else is kept: most parts of divided
        words never stand on a line."""
        units, glyphs = measure_all(self.face, texts, not self.tracking, self.manner)
        across, tracking = self.across, self.tracking
        return [exact(w * across + tracking * n) for w, n in zip(units, glyphs, strict=True)]

    @cached_property
    def space(self) -> float:
        return self.word(" ").width

    @cached_property
    def hyphen(self) -> Word:
        return self.word("-")


_shaped: dict[tuple[FontFace, bool, Lettering, bool], dict[str, Shaped]] = {}
_settings: dict[tuple[FontFace, float, float, Lettering, float, float], Setting] = {}


def setting_of(
    face: FontFace, size: float, tracking: float = 0.0, manner: Lettering = PLAIN,
    shift: float = 0.0, stretch: float = 1.0,
) -> Setting:  # fmt: skip
    """The one setting of this font, size (pt), tracking (1/1000 em), manner, shift (pt) and stretch
    of its glyphs (1: none)."""
    key = (face, size, tracking, manner, shift, stretch)
    found = _settings.get(key)
    if found is None:
        if len(_settings) > 500:
            _settings.clear()
        found = _settings[key] = Setting(face, size, tracking * size / 1000, manner, shift, stretch)
    return found


@cache
def _features(ligatures: bool, manner: Lettering) -> dict[str, int]:
    asked = (feature.partition("=") for feature in manner.features)
    return {**_FEATURES[ligatures], **{tag: int(number or 1) for tag, _, number in asked}}


def shape(
    face: FontFace,
    text: str,
    ligatures: bool = True,
    manner: Lettering = PLAIN,
    rtl: bool = False,
) -> Shaped:
    """A word's glyphs with kerning and, unless switched off, standard ligatures."""
    known = _shaped.setdefault((face, ligatures, manner, rtl), {})
    found = known.get(text)
    if found is not None:
        return found
    if len(known) >= _MAX_WORDS:
        known.clear()
    found = known[text] = _shaped_anew(face, text, ligatures, manner, rtl)
    return found


def _shaped_anew(
    face: FontFace, text: str, ligatures: bool, manner: Lettering, rtl: bool
) -> Shaped:  # fmt: skip
    buffer = hb.Buffer()
    seen = text if text.isprintable() else _printable(text)
    origins: Sequence[int] = range(len(seen))
    if manner.capitals:
        seen, origins = capitals(seen)
    buffer.add_str(seen)
    buffer.guess_segment_properties()
    buffer.direction = "rtl" if rtl else "ltr"
    hb.shape(face.font, buffer, _features(ligatures, manner))
    positions = buffer.glyph_positions or []
    infos = buffer.glyph_infos or []
    advances = tuple([p.x_advance for p in positions])
    offsets = [(p.x_offset, p.y_offset) for p in positions]
    return Shaped(
        text,
        tuple([i.codepoint for i in infos]),
        advances,
        tuple(offsets) if offsets.count((0, 0)) < len(offsets) else None,
        tuple([origins[i.cluster] for i in infos]),
        sum(advances),
        rtl,
    )


_APART = "\uffff"  # a noncharacter: no font has it, so it joins and is kerned with nothing
_SIMPLE = re.compile("[!-~\u00a1-\u00ac\u00ae-\u024f\u2010-\u2026]+")  # Latin, left to right
_LINE = 400  # words in one buffer
_SEVERAL = 8  # words that are quicker shaped in one than each by itself


def shape_all(
    face: FontFace, texts: Sequence[str], ligatures: bool = True, manner: Lettering = PLAIN
) -> None:
    """Shapes many words, so that `shape` knows them: in half the time, several in a buffer."""
    if manner.capitals:
        return
    known = _shaped.setdefault((face, ligatures, manner, False), {})
    simple = [t for t in texts if t not in known and _SIMPLE.fullmatch(t)]
    if len(known) + len(simple) > _MAX_WORDS:
        return
    for begin in range(0, len(simple), _LINE):
        several = simple[begin : begin + _LINE]
        _part(known, several, _buffer_of(face, several, ligatures, manner))


def measure_all(
    face: FontFace, texts: Sequence[str], ligatures: bool, manner: Lettering
) -> tuple[list[int], list[int]]:
    """How wide words are in font units, and how many glyphs each has."""
    units, counts = [0] * len(texts), [0] * len(texts)
    known = _shaped.get((face, ligatures, manner, False), {})
    simple = [] if manner.capitals else [n for n, t in enumerate(texts) if _SIMPLE.fullmatch(t)]
    for begin in range(0, len(simple), _LINE):
        some = simple[begin : begin + _LINE]
        buffer = _buffer_of(face, [texts[n] for n in some], ligatures, manner)
        sums = [0, *accumulate([p.x_advance for p in buffer.glyph_positions or []])]
        at = {i.cluster: n for n, i in enumerate(buffer.glyph_infos or [])}
        start = first = 0
        for n in some:
            start += len(texts[n])
            end = at.get(start, len(sums) - 1)
            units[n], counts[n] = sums[end] - sums[first], end - first
            start, first = start + 1, end + 1
    if len(simple) < len(texts):
        for n in set(range(len(texts))).difference(simple):
            text = texts[n]
            one = known.get(text) or _shaped_anew(face, text, ligatures, manner, False)
            units[n], counts[n] = one.width, len(one.glyphs)
    return units, counts


def _buffer_of(face: FontFace, texts: list[str], ligatures: bool, manner: Lettering) -> hb.Buffer:
    """Words shaped in one buffer, apart from each other."""
    buffer = hb.Buffer()
    buffer.add_str(_APART.join(texts))
    buffer.guess_segment_properties()
    buffer.direction = "ltr"
    hb.shape(face.font, buffer, _features(ligatures, manner))
    return buffer


def _part(known: dict[str, Shaped], texts: list[str], buffer: hb.Buffer) -> None:
    """Parts a buffer at the glyphs of what stands between words."""
    positions, infos = buffer.glyph_positions or [], buffer.glyph_infos or []
    glyphs = [i.codepoint for i in infos]
    clusters = [i.cluster for i in infos]
    advances = [p.x_advance for p in positions]
    offsets = [(p.x_offset, p.y_offset) for p in positions]
    moved: set[int] = set()
    if offsets.count((0, 0)) < len(offsets):
        moved = {n for n, offset in enumerate(offsets) if offset != (0, 0)}
    at = {cluster: n for n, cluster in enumerate(clusters)}
    start = begin = 0
    for text in texts:
        end = at.get(start + len(text), len(glyphs))
        steps = tuple(advances[begin:end])
        places = None
        if moved and not moved.isdisjoint(range(begin, end)):
            places = tuple(offsets[begin:end])
        own = tuple([c - start for c in clusters[begin:end]])
        known[text] = Shaped(text, tuple(glyphs[begin:end]), steps, places, own, sum(steps))
        start, begin = start + len(text) + 1, end + 1


def capitals(text: str) -> tuple[str, list[int]]:
    """A text in capitals, and the character of the text that each of them stands for (Unicode
    SpecialCasing: “ß” becomes two)."""
    raised, origins = [], []
    for n, letter in enumerate(text):
        upper = letter.upper()
        raised.append(upper)
        origins += [n] * len(upper)
    return "".join(raised), origins


def _printable(text: str) -> str:
    seen = text.translate(_UNSEEN)
    return "".join("\ufffd" if "\ud800" <= c <= "\udfff" else c for c in seen)
