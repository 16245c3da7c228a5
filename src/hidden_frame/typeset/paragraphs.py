"""Paragraphs set at a measure, each once, many at a time; their lines are made when looked at.

>>> from hidden_frame.typeset.fonts import font_book
>>> from hidden_frame.typeset.paragraph import Span
>>> from hidden_frame.typeset.shaping import setting_of
>>> setting = setting_of(font_book().face("Spectral"), 10.0)
>>> done = set_paragraph(ParagraphSpec((Span("two words", setting, (0.0,)),), setting, 14.0), 30.0)
>>> done.count, done.height, [line.text for line in done.lines]
(2, 28.0, ['two', 'words'])
"""

from __future__ import annotations

from array import array
from bisect import bisect_left
from collections.abc import Sequence
from functools import lru_cache

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.breaking.nodes import Ends
from hidden_frame.typeset.ends import ends_of
from hidden_frame.typeset.known import KNOWN
from hidden_frame.typeset.line import TextLine
from hidden_frame.typeset.lines import MOST_WHOLE, LineSetter, set_lines
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import TextOffset, Tokens, tokens_of
from hidden_frame.typeset.shaping import Setting, exact

_BEGIN = (0, TextOffset())
_FEW_LINES = 3
FEW = 3  # paragraphs, up to which breaking one after the other is quicker than all at once


def weight_of(spec: ParagraphSpec) -> int:
    """Bytes that a set paragraph takes for its words and their places, roughly."""
    return 60 * sum(len(span.text) for span in spec.spans)


class SetLines:
    """Lines of a paragraph; `count` is how many there are, `height` theirs (points)."""

    __slots__ = ("_lines", "count", "height", "spec")
    fits = False  # whether no line is known to stand out of the measure, before any is made

    def __init__(self, spec: ParagraphSpec, lines: tuple[TextLine, ...] | None, count: int) -> None:
        self.spec, self.count = spec, count
        self.height = spec.leading * count
        self._lines = lines

    @property
    def lines(self) -> tuple[TextLine, ...]:
        """The lines; always the same objects."""
        if self._lines is None:
            self._lines = self._made()
        return self._lines

    def _made(self) -> tuple[TextLine, ...]:
        return ()

    def rest(self) -> None:
        """Forgets lines that can be made again at little cost."""

    def place(self, index: int) -> TextOffset:
        """Where a line begins in the paragraph's text."""
        return self.lines[index].place

    def divided(self, index: int) -> bool:
        """Whether a line ends with a part of a word."""
        return self.lines[index].divided

    def line_at(self, place: TextOffset) -> int | None:
        """The line that begins at a place; None if none does, as at another measure."""
        if place == TextOffset():
            return 0
        at = bisect_left(self.lines, place, key=_place)
        return at if at < self.count and self.lines[at].place == place else None


class SetParagraph(SetLines):
    """A paragraph at one measure: where its lines end, and the lines themselves, which are
    made when they are asked for, since most pages of a book are never looked at."""

    __slots__ = ("_asked", "_ends", "_measure", "fits")

    def __init__(
        self, spec: ParagraphSpec, measure: float, ends: Ends | None = None, fits: bool = True
    ) -> None:
        self._measure, self._ends = measure, ends
        self.fits = fits and ends is not None
        self._asked = _BEGIN  # the line whose place was asked for, and its place
        if ends is None:
            lines = set_lines(spec, measure)
            super().__init__(spec, lines, len(lines))
        else:
            super().__init__(spec, None, len(ends.tokens))

    def _made(self) -> tuple[TextLine, ...]:
        breaks = self._ends.breaks() if self._ends is not None else None
        return tuple(LineSetter(self.spec, self._measure).row(self._measure, breaks))

    def rest(self) -> None:
        """Forgets the lines and keeps where they end, so that they can be made again at little
        cost; those of a paragraph that is more than plain lines are kept."""
        if self._lines is None or not self.count:
            return
        if self._ends is None:
            found = ends_of(self._lines)
            if found is None:
                return
            self._ends = Ends(_packed(found.tokens), _packed(found.used), found.glued)
        self._lines = None

    def place(self, index: int) -> TextOffset:
        if index == self._asked[0]:
            return self._asked[1]
        found = self._place(index)
        self._asked = index, found
        return found

    def _place(self, index: int) -> TextOffset:
        if self._lines is None and self._ends is not None and index > 0:
            used = self._ends.used[index - 1]
            follows = self._ends.tokens[index - 1] + (not used)
            text = self.spec.spans[0].text
            if not self._ends.glued:  # a token is what stands between two spaces
                return TextOffset(len(text) - len(text.split(" ", follows)[-1]) + used)
        return super().place(index)

    def divided(self, index: int) -> bool:
        if self._lines is None and self._ends is not None:
            return bool(self._ends.used[index])
        return super().divided(index)

    def line_at(self, place: TextOffset) -> int | None:
        if self._lines is None and place != TextOffset():
            if self._asked[1] == place:  # where the page before this one ended
                return self._asked[0]
            for index in range(1, self.count):
                found = self.place(index)
                if found >= place:
                    return index if found == place else None
            return None
        return super().line_at(place)


def _packed(numbers: Sequence[int]) -> Sequence[int]:
    """As small as can be: heads and folios are a line, of which thousands of pages have some."""
    return _few(*numbers) if len(numbers) < _FEW_LINES else array("I", numbers)


@lru_cache(maxsize=10_000)
def _few(*numbers: int) -> tuple[int, ...]:
    return numbers


def lines_from(spec: ParagraphSpec, begin: TextOffset, measure: float) -> SetLines:
    """The lines of a paragraph from a place in its text on, at one measure."""
    setter = LineSetter(spec, measure)
    setter.go_on_at(begin)
    lines: list[TextLine] = []
    while not setter.done:
        lines += setter.row(measure)
    return SetLines(spec, tuple(lines), len(lines))


def _place(line: TextLine) -> TextOffset:
    return line.place


def _weight(done: SetParagraph) -> int:
    return 450 * done.count + weight_of(done.spec)


def _together(specs: Sequence[ParagraphSpec], measure: float) -> list[SetParagraph]:
    """Paragraphs at one measure: those of one look, of which there are many in a long text, are
    broken at once."""
    looks: dict[object, list[tuple[int, Tokens]]] = {}
    for n, spec in enumerate(specs):
        tokens = tokens_of(spec)
        if tokens is None or spec.spacing.balanced or len(tokens.parts) > MOST_WHOLE:
            continue
        whole = spec.spacing.whole
        if whole or (
            not tokens.kept and (spec.spans[0].language is None or not spec.spacing.hyphens)
        ):
            span = spec.spans[0]
            look = span.setting, span.language, spec.base, *spec[3:4], *spec[6:9], spec.spacing
            looks.setdefault(look, []).append((n, tokens))
    ends: list[Ends | None] = [None] * len(specs)
    made: dict[int, SetParagraph] = {}
    new: dict[int, bytes] = {}
    for several in looks.values():
        if len(several) > FEW:
            like = specs[several[0][0]]
            if KNOWN.is_open:
                keys = _keys([specs[n] for n, _ in several], like, measure)
                several, made_now, new_now = _known(several, keys, specs, measure)
                made |= made_now
                new |= new_now
            found = _broken([t for _, t in several], like, measure) if several else []
            for (n, tokens), end in zip(several, found, strict=True):
                ends[n] = end._replace(glued=True) if end is not None and tokens.glued else end
    done = [
        made[n] if n in made else SetParagraph(spec, measure, end)
        for n, (spec, end) in enumerate(zip(specs, ends, strict=True))
    ]
    for n, key in new.items():
        end = ends[n] if ends[n] is not None else ends_of(done[n].lines)
        if end is not None:
            KNOWN.put(key, end, done[n].fits)
    return done


def _known(
    several: list[tuple[int, Tokens]],
    keys: Sequence[bytes],
    specs: Sequence[ParagraphSpec],
    measure: float,
) -> tuple[list[tuple[int, Tokens]], dict[int, SetParagraph], dict[int, bytes]]:
    """Those that nobody knows; those whose lines are known from another run; the keys of the
    first."""
    left, made, new = [], {}, {}
    for (n, tokens), key in zip(several, keys, strict=True):
        known = KNOWN.get(key)
        if known is None:
            left.append((n, tokens))
            new[n] = key
        else:
            made[n] = SetParagraph(specs[n], measure, known.ends, known.fits)
    return left, made, new


def _keys(specs: Sequence[ParagraphSpec], like: ParagraphSpec, measure: float) -> list[bytes]:
    """The keys of paragraphs that are all set as one of them is."""
    span = like.spans[0]
    look = KNOWN.look(
        _said(span.setting), span.language, _said(like.base), fit_of(like, measure),
        like.align, like.left, like.right, like.first, like.spacing, like.dress.level,
        like.dress.anchored,
    )  # fmt: skip
    return [KNOWN.key(look, spec.spans[0].text) for spec in specs]


def _said(setting: Setting) -> tuple[object, ...]:
    """What of a setting lines depend on."""
    face = setting.face.digest
    return face, setting.size, setting.tracking, setting.manner, setting.shift, setting.stretch


def _broken(texts: list[Tokens], like: ParagraphSpec, measure: float) -> list[Ends | None]:
    """Where the lines of texts end that are all set as one of them is."""
    from hidden_frame.typeset.breaking import together  # loads NumPy

    span, fit, first = like.spans[0], fit_of(like, measure), exact(like.first)
    if like.spacing.whole:
        return together.breaks_together(texts, span.setting, fit, first, span.language)
    return together.first_fit_together(texts, span.setting, fit, first)


@remembered(weigh=_weight, together=_together, shared=True)
def set_paragraph(spec: ParagraphSpec, measure: float) -> SetParagraph:
    """The same object for the same paragraph at the same measure: a paragraph is set once."""
    return SetParagraph(spec, measure)
