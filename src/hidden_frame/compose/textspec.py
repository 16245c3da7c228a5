"""From a publication's text and styles to what typesetting understands."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any, NamedTuple, TypeVar

from msgspec.structs import replace

from hidden_frame.compose.anchors import anchored_span
from hidden_frame.compose.palette import Palette, ink
from hidden_frame.compose.placing import physical
from hidden_frame.model.geometry import Side
from hidden_frame.model.memory import remembered
from hidden_frame.model.same import same_ends
from hidden_frame.model.styles import (
    CharacterStyle,
    ComputedStyle,
    Rule,
)
from hidden_frame.model.text import (
    Alignment,
    Anchor,
    IndexMark,
    Look,
    Marker,
    Note,
    Paragraph,
    Run,
    TabStop,
    Text,
)
from hidden_frame.spelling.checked import spelled_in
from hidden_frame.typeset.anchored import BESIDE
from hidden_frame.typeset.fonts import FontFace, font_book
from hidden_frame.typeset.fonts.fallback import stretches
from hidden_frame.typeset.hyphenation import Division
from hidden_frame.typeset.paragraph import (
    Anchored,
    Border,
    Dress,
    Drop,
    Ink,
    Keeps,
    ParagraphSpec,
    Spacing,
    Span,
    Tab,
)
from hidden_frame.typeset.shaping import Lettering, setting_of, shape

V = TypeVar("V")
_MOST = 1_000  # values of which one is shared by all paragraphs


def specs(
    text: Text,
    values: tuple[str, ...],
    side: Side,
    known: Palette,
    labels: tuple[str, ...] | None = None,
    before: Paragraph | None = None,
) -> list[ParagraphSpec]:
    """Paragraphs ready to be set; `values` are what the text's markers show, in order, `labels`
    what stands before each paragraph (`numbers.labels`), `before` the paragraph before them."""
    found = _unflushed(text, values, side, known, labels)
    if known.flushes:
        for n, (paragraph, last) in enumerate(zip(text, (before, *text), strict=False)):
            style = known.paragraphs[paragraph.style]
            if style.flush_after and style.indent_first > 0 and _opens(last, known):
                found[n] = _flushed(found[n])
    return found


def _opens(before: Paragraph | None, known: Palette) -> bool:
    """Whether a paragraph that stands behind another begins anew: at the head of a text, behind a
    heading, a list, a picture, a break.  That the first line is then not indented is common
    practice of the trade."""
    if before is None:
        return True
    style = known.paragraphs[before.style]
    if style.keep_next or style.level or style.number is not None:
        return True
    said = (c.text for c in before.content if isinstance(c, Run))
    return not any(c.isalnum() for text in said for c in text)


@remembered(shared=True)
def _flushed(spec: ParagraphSpec) -> ParagraphSpec:
    return spec._replace(first=0.0)


def _unflushed(
    text: Text,
    values: tuple[str, ...],
    side: Side,
    known: Palette,
    labels: tuple[str, ...] | None,
) -> list[ParagraphSpec]:
    if not values and labels is None:
        return _spec.each(text, (), side, known, "")
    found, at = [], 0
    for paragraph, label in zip(text, labels or [""] * len(text), strict=True):
        count = sum(isinstance(piece, Marker) for piece in paragraph.content)
        found.append(_spec(paragraph, values[at : at + count], side, known, label))
        at += count
    return found


class Numbered(NamedTuple):
    """A text, and what stands before each of its paragraphs."""

    text: Text
    labels: tuple[str, ...] | None


class StorySpecs(NamedTuple):
    """A story's paragraphs as they are set on either side; the same list where no paragraph is
    aligned to the spine or away from it."""

    recto: list[ParagraphSpec]
    verso: list[ParagraphSpec]

    def on(self, side: Side) -> list[ParagraphSpec]:
        return self.recto if side == "recto" else self.verso


def story_specs(
    text: Text,
    known: Palette,
    value: Callable[[Marker], str],
    labels: tuple[str, ...] | None = None,
    before: Paragraph | None = None,
) -> StorySpecs:
    """A story's paragraphs; `value` says what a marker shows, `labels` what stands before each
    paragraph, `before` is the one before them."""
    values = tuple(value(c) for p in text for c in p.content if isinstance(c, Marker))
    recto = specs(text, values, "recto", known, labels, before)
    styles = known.paragraphs
    turns = any((p.alignment or styles[p.style].alignment) in ("inside", "outside") for p in text)
    verso = specs(text, values, "verso", known, labels, before) if turns else recto
    return StorySpecs(recto, verso)


def edited_specs(
    before: StorySpecs, old: Numbered, new: Numbered, known: Palette, value: Callable[[Marker], str]
) -> StorySpecs:
    """The same after an edit: only paragraphs that are not the same objects, or have another
    number, are looked at."""
    text, labels = new
    head, foot = same_ends(old.text, text)
    if labels is not None or old.labels is not None:
        new_ones, old_ones = labels or ("",) * len(text), old.labels or ("",) * len(old.text)
        while head and new_ones[:head] != old_ones[:head]:
            head = next(n for n in range(head) if new_ones[n] != old_ones[n])
        while foot and new_ones[-foot:] != old_ones[-foot:]:
            foot = next(n for n in range(foot) if new_ones[-1 - n] != old_ones[-1 - n])
    if known.flushes and foot:
        foot -= 1  # what stands before a paragraph says how it begins
    cut = slice(head, len(text) - foot)
    here = None if labels is None else labels[cut]
    middle = story_specs(text[cut], known, value, here, text[head - 1] if head else None)

    def joined(all_of: list[ParagraphSpec], new: list[ParagraphSpec]) -> list[ParagraphSpec]:
        return [*all_of[:head], *new, *all_of[len(all_of) - foot :]]

    recto = joined(before.recto, middle.recto)
    if before.recto is before.verso and middle.recto is middle.verso:
        return StorySpecs(recto, recto)
    return StorySpecs(recto, joined(before.verso, middle.verso))


@remembered(by_value=("values",), weigh=lambda spec: 400 + 150 * len(spec.spans), shared=True)
def _spec(
    paragraph: Paragraph,
    values: tuple[str, ...],
    side: Side,
    known: Palette,
    label: str = "",
) -> ParagraphSpec:
    as_styled = paragraph.alignment is None and paragraph.tabs is None and not label
    as_styled = as_styled and not paragraph.goes_to and paragraph.starts is None
    if len(paragraph.content) == 1 and as_styled:
        piece = paragraph.content[0]
        plain = isinstance(piece, Run) and piece.style is None and piece.look is None
        if plain and known.paragraphs[paragraph.style].drop_lines < 2:
            return _plain_spec(piece.text, paragraph.style, side, known)  # type: ignore[union-attr]
    shown = iter(values)
    style = known.paragraphs[paragraph.style]
    base = _plain_span(style, known)
    tabs = style.tabs if paragraph.tabs is None else paragraph.tabs
    spans = _label(label, style, known)
    for piece in paragraph.content:
        if isinstance(piece, IndexMark):
            spans.append(base._replace(text=BESIDE, marker=True, language=None, anchored=_MARK))
            continue
        if isinstance(piece, Note):
            named = known.characters[piece.style] if piece.style is not None else None
            raised = replace(piece.look or Look(), raised="superior")
            number = span_of(piece.number or "?", style, named, raised, known, True)
            spans += _with_every_character(number)
            continue
        if isinstance(piece, Anchor):
            spans.append(anchored_span(piece, base, _caption(piece, paragraph.style, side, known)))
            continue
        named = known.characters[piece.style] if piece.style is not None else None
        marker = isinstance(piece, Marker)
        string = next(shown) if isinstance(piece, Marker) else piece.text
        if named is None and piece.look is None and not marker:
            span = base._replace(text=string)
        else:
            span = span_of(string, style, named, piece.look, known, marker)
        if isinstance(piece, Marker) and piece.refers is not None:
            span = span._replace(goes_to=piece.refers.page)
        spans += _with_every_character(span)
    drop, spans = _dropped(spans, style)
    stops = [Tab(t.position, t.align, t.leader) for t in tabs]
    if label and style.indent_first < 0:  # the text behind a number stands at the indent
        stops.append(Tab(style.indent_left, "left"))
    return ParagraphSpec(
        tuple(spans),
        base.setting,
        style.leading,
        physical(paragraph.alignment or style.alignment, side),
        style.space_before,
        style.space_after,
        style.indent_left,
        style.indent_right,
        style.indent_first,
        tuple(stops),
        style.name,
        base.ink,
        _one(_spacing(style)),
        _one(
            Keeps(
                style.keep_next,
                style.keep_together,
                style.least_foot,
                style.least_head,
                paragraph.starts or style.starts,
                style.hyphen_ends if style.hyphenate else "anywhere",
            )
        ),
        _one(
            Dress(
                _border(style.rule_above),
                _border(style.rule_below),
                drop,
                style.on_grid,
                any(s.anchored is not None and s.anchored.what is not None for s in spans),
                _LEVELS[style.reads],
                paragraph.goes_to,
                _turns(paragraph.alignment or style.alignment, tabs, side),
            )
        ),
    )


_ones: dict[Any, Any] = {}


def _turns(alignment: Alignment, tabs: tuple[TabStop, ...], side: Side) -> bool:
    """Whether a line with two ends changes them on this side: one that is aligned inside or
    outside, and has a stop at the edge (R4)."""
    ends = any(tab.position is None and tab.align == "right" for tab in tabs)
    return ends and alignment in ("inside", "outside") and physical(alignment, side) == "right"


def _one(value: V) -> V:
    """The same object for the same value: thousands of paragraphs share a few of them."""
    if len(_ones) > _MOST:
        _ones.clear()
    return _ones.setdefault(value, value)


def _caption(anchor: Anchor, style: str, side: Side, known: Palette) -> tuple[ParagraphSpec, ...]:
    """The paragraphs of an anchor's caption; `style` is that of its own paragraph."""
    named = anchor.caption_style or style
    lines = anchor.caption.split("\n") if anchor.caption else ()
    return tuple(_spec(Paragraph(named, (Run(line),)), (), side, known) for line in lines)


_MARK = Anchored("inside", 0.0, 0.0)  # an index mark: a place of no width
_LEVELS = {"as its letters": None, "left to right": 0, "right to left": 1}


def _spacing(style: ComputedStyle) -> Spacing:
    return Spacing(
        style.breaking == "paragraph",
        style.word_space_least,
        style.word_space_most,
        style.hyphens_in_a_row if style.hyphenate else 0,
        style.letter_space,
        style.hanging_punctuation,
        style.balanced,
        style.glyph_scale / 100,
    )


def _border(rule: Rule | None) -> Border | None:
    return None if rule is None else Border(rule.weight, rule.offset, rule.width == "column")


def _label(label: str, style: ComputedStyle, known: Palette) -> list[Span]:
    """A paragraph's number and what parts it from the text: nobody's characters."""
    if not label or style.number is None:
        return []
    named = known.characters.get(style.number.style or "")
    span = span_of(label, style, named, None, known, True)._replace(goes_on=True)
    parts = [p._replace(goes_on=True) for p in _with_every_character(span)]
    if label[-1].isspace() and style.indent_first >= 0 and not style.number.above:
        return parts
    apart = "\u2028" if style.number.above else "\t" if style.indent_first < 0 else " "
    plain = _plain_span(style, known)._replace(text=apart, goes_on=True)
    return [*parts, plain]


def _dropped(spans: list[Span], style: ComputedStyle) -> tuple[Drop | None, list[Span]]:
    """The initials of a paragraph, as high as their lines, and what is left of its spans."""
    lines, count = style.drop_lines, style.drop_letters
    if lines < 2 or not spans or spans[0].marker or len(spans[0].text) <= count:
        return None, spans
    first = spans[0]
    letters, rest = first.text[:count], first.text[count:]
    if not letters.strip() or {"\t", "\u2028"} & set(letters):
        return None, spans
    setting, face = first.setting, first.setting.face
    down = (lines - 1) * style.leading
    size = setting.size + down / face.capital
    large = setting_of(face, size, 0.0, setting.manner, setting.shift - down)
    drop = first._replace(text=letters, setting=large, language=None)
    return Drop(drop, lines), [first._replace(text=rest), *spans[1:]]


def _plain_spec(text: str, style_id: str, side: Side, known: Palette) -> ParagraphSpec:
    """A paragraph of one look, which most are, from the one that its style makes of no text."""
    empty = _empty_spec(style_id, side, known)
    span = empty.spans[0]
    filled = Span(text, *span[1:])
    spans = (filled,) if text.isascii() and span.setting.face.has_ascii else ()
    return ParagraphSpec(spans or tuple(_with_every_character(filled)), *empty[1:])


@remembered()
def _empty_spec(style_id: str, side: Side, known: Palette) -> ParagraphSpec:
    return _spec(Paragraph(style_id, (Run(""), Run(""))), (), side, known)


@remembered()
def _plain_span(style: ComputedStyle, known: Palette) -> Span:
    """What a style alone makes of a text: the same for all of its paragraphs."""
    return span_of("", style, None, None, known, False)


def _with_every_character(span: Span) -> list[Span]:
    """The span in parts, each in a font that has its characters."""
    setting = span.setting
    parts = stretches(span.text, setting.face)
    if len(parts) == 1 and parts[0][1] is setting.face:
        return [span]
    tracking = setting.tracking / setting.size * 1000
    return [
        span._replace(
            text=text,
            setting=setting_of(face, setting.size, tracking, setting.manner, setting.shift),
            goes_on=span.marker and n > 0,
        )
        for n, (text, face) in enumerate(parts)
    ]


def span_of(
    text: str,
    style: ComputedStyle,
    named: CharacterStyle | None,
    look: Look | None,
    known: Palette,
    marker: bool,
) -> Span:
    """A span in its paragraph's style as changed by a character style, then by its own look."""

    def pick(name: str) -> object:
        for source in (look, named):
            value = getattr(source, name) if source is not None else None
            if value is not None:
                return value
        return getattr(style, name)

    face = font_book().face(pick("family"), pick("bold"), pick("italic"))  # type: ignore[arg-type]
    size, shift = float(pick("size")), float(pick("shift"))  # type: ignore[arg-type]
    raised = str(pick("raised"))
    manner = _manner(*[str(pick(n)) for n in ("case", "figures", "figure_width")],
                     bool(pick("fractions")), str(pick("alternate")))  # fmt: skip
    if raised != "no":
        manner, size, shift = _raised(face, text, raised, manner, size, shift)
    setting = setting_of(face, size, float(pick("tracking")), manner, shift)  # type: ignore[arg-type]
    colour = known.colours[str(pick("colour"))]
    # One that is not hyphenated has no hyphens in a row (`_spacing`); its syllables are only asked
    # for where a word is wider than a line.
    language = str(pick("language") or known.language)
    by = (style.hyphen_word, style.hyphen_before, style.hyphen_after)
    return Span(
        text,
        setting,
        ink(colour, float(pick("tint"))),  # type: ignore[arg-type]
        marker,
        Division(language, *by),
        underline=bool(pick("underline")),
        strike=bool(pick("strike")),
        spelled="" if marker else spelled_in(style, named, look, known.language),
        raised=raised != "no",
        dark=_dark(style, named, look, known),
    )


def _dark(
    style: ComputedStyle, named: CharacterStyle | None, look: Look | None, known: Palette
) -> Ink | None:
    """The ink on dark ground: of whoever names the colour, if it names one for dark ground, too."""
    for source in (look, named, style):
        if source is None:
            continue
        if source.on_dark is not None:
            return ink(known.colours[source.on_dark])
        if source.colour is not None:
            return None
    return None


# OpenType, registered features.
_CASES = {"small capitals": ("smcp",), "capitals": ("case",)}
_FIGURES = {"lining": ("lnum",), "old style": ("onum",)}
_WIDTHS = {"proportional": ("pnum",), "tabular": ("tnum",)}
_RAISED = {"superior": "sups", "inferior": "subs"}
# Common practice of the trade for fonts without such figures: share of the size, and of it the
# shift up or down.
_SMALLER = 0.6
_LIFT = {"superior": 0.33, "inferior": -0.14}


@cache
def _manner(case: str, figures: str, width: str, fractions: bool, alternate: str) -> Lettering:
    tags = (*_CASES.get(case, ()), *_FIGURES.get(figures, ()), *_WIDTHS.get(width, ()))
    tags += ("frac",) * fractions + ((alternate,) if alternate else ())
    return Lettering(tags, case == "capitals")


def _raised(
    face: FontFace, text: str, raised: str, manner: Lettering, size: float, shift: float
) -> tuple[Lettering, float, float]:
    """Superiors and inferiors as the font has them; where it lacks one of them, all are made
    smaller and shifted."""
    own = manner._replace(features=(*manner.features, _RAISED[raised]))
    there = all(
        shape(face, c, manner=own).glyphs != shape(face, c, manner=manner).glyphs
        for c in set("".join(text.split()))
    )
    if there and text.strip():
        return own, size, shift
    return manner, size * _SMALLER, shift + size * _LIFT[raised]
