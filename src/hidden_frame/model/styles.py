"""Paragraph and character styles: what each says itself, and what it follows of another.

A style may be based on another one: it says only what differs, and a change of its base runs
through.  What comes of that is its *computed* style, as CSS calls it (CSS Cascading and
Inheritance Level 3, section 4.4).

>>> body = ParagraphStyle(id="body", name="Body", size=11.0, leading=15.0)
>>> small = ParagraphStyle(id="small", name="Small", based_on="body", size=9.0)
>>> computed_paragraphs((body, small))["small"].leading
15.0
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeVar

from msgspec import UNSET, Meta, Struct

from hidden_frame.model.chain import chain
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import NotNegative, Positive, Share
from hidden_frame.model.memory import remembered
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.partly import open_fields, partly
from hidden_frame.model.text import (
    Alignment,
    Alternate,
    BaselineShift,
    Case,
    Figures,
    FigureWidth,
    FontSize,
    Language,
    Look,
    Raised,
    Spelling,
    Starts,
    TabStop,
)

Name = Annotated[str, Meta(min_length=1)]
Tracking = Annotated[float, Meta(ge=-500, le=2000)]


LeastLines = Annotated[int, Meta(ge=1, le=40)]
DropLines = Annotated[int, Meta(ge=0, le=20)]
DropLetters = Annotated[int, Meta(ge=1, le=20)]
HyphensInARow = Annotated[int, Meta(ge=0, le=100)]
HyphenLetters = Annotated[int, Meta(ge=1, le=30)]
WordSpaceLeast = Annotated[float, Meta(ge=0.3, le=1)]
WordSpaceMost = Annotated[float, Meta(ge=1, le=10)]
LetterSpace = Annotated[float, Meta(ge=0, le=200)]
GlyphScale = Annotated[float, Meta(ge=0, le=5)]
Breaking = Literal["paragraph", "line"]
Level = Annotated[int, Meta(ge=0, le=9)]
HyphenEnds = Literal["anywhere", "not at rectos", "not at pages"]
Reads = Literal["as its letters", "left to right", "right to left"]


class Rule(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A rule above or below a paragraph, in its text's colour: as wide as the column or as the
    line of text that it stands at, `offset` points away from that line's edge."""

    weight: Annotated[float, Meta(gt=0, le=100)] = 0.5
    offset: Annotated[float, Meta(ge=-200, le=200)] = 2.0
    width: Literal["column", "text"] = "column"


class ComputedStyle(Struct, frozen=True, kw_only=True):
    """How a paragraph is set; lengths in points, tracking in 1/1000 em.

    The defaults are what a style that is based on no other leaves unsaid.  A `language` that
    is None is the publication's.  Word spaces are shares of their natural width;
    `letter_space` (1/1000 em) is how much wider letters may be spaced in a line that would be
    loose, 0 not at all, and `glyph_scale` (per cent) how much wider its letters themselves may be,
    or narrower in a line that would be tight.  It `reads` as the first of its letters does, unless
    it says how.  `least_foot` and `least_head` are the fewest lines of a
    paragraph at the foot of a frame and at the head of the next one.

    Its words take the colour `on_dark` where what is printed beneath their frame is dark.

    `level` is that of a heading, 1 the highest; 0: that of contents lists.  A style that is
    `flush_after` has no first indent behind a heading, a list, a picture, a break, and at the head
    of a story.  `hyphen_ends` says where a page may end with a divided word: `not at rectos`, whose
    other half one would have to turn the leaf for.
    """

    id: str
    name: Name
    family: str = "Spectral"
    bold: bool = False
    italic: bool = False
    size: FontSize = 10.0
    leading: Positive = 13.0
    tracking: Tracking = 0.0
    colour: str = "ink"
    tint: Share = 1.0
    alignment: Alignment = "left"
    space_before: NotNegative = 0.0
    space_after: NotNegative = 0.0
    indent_left: NotNegative = 0.0
    indent_right: NotNegative = 0.0
    indent_first: float = 0.0
    flush_after: bool = False
    tabs: tuple[TabStop, ...] = ()
    hyphenate: bool = False
    language: Language | None = None
    underline: bool = False
    strike: bool = False
    case: Case = "as typed"
    figures: Figures = "as the font"
    figure_width: FigureWidth = "as the font"
    raised: Raised = "no"
    fractions: bool = False
    shift: BaselineShift = 0.0
    spelling: Spelling = "by its name"
    alternate: Alternate = ""
    reads: Reads = "as its letters"
    breaking: Breaking = "paragraph"
    balanced: bool = False
    word_space_least: WordSpaceLeast = 0.85
    word_space_most: WordSpaceMost = 1.5
    letter_space: LetterSpace = 0.0
    glyph_scale: GlyphScale = 0.0
    hyphens_in_a_row: HyphensInARow = 3
    hyphen_word: HyphenLetters = 5
    hyphen_before: HyphenLetters = 2
    hyphen_after: HyphenLetters = 3
    hyphen_ends: HyphenEnds = "not at rectos"
    hanging_punctuation: bool = False
    keep_next: bool = False
    keep_together: bool = False
    least_foot: LeastLines = 1
    least_head: LeastLines = 1
    starts: Starts = "anywhere"
    level: Level = 0
    on_grid: bool = False
    drop_lines: DropLines = 0
    drop_letters: DropLetters = 1
    rule_above: Rule | None = None
    rule_below: Rule | None = None
    number: ListNumber | None = None
    on_dark: str | None = None


if TYPE_CHECKING:

    class ParagraphStyle(Struct, frozen=True, kw_only=True):
        id: str
        name: str
        based_on: str | None = None

        def __init__(
            self, *, id: str, name: str, based_on: str | None = None, **properties: Any
        ) -> None: ...

        def __getattr__(self, name: str) -> Any: ...
else:
    ParagraphStyle = partly(
        "ParagraphStyle", __name__,
        "What a style says itself; what is unset follows the style that it is based on.",
        (("id", str), ("name", Name), ("based_on", str | None, None)),
        open_fields([ComputedStyle], ComputedStyle.__struct_fields__[2:]),
    )  # fmt: skip


class CharacterStyle(
    Look, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True
):
    """What a run changes of its paragraph's look; None follows its base, then the paragraph."""

    id: str
    name: Name
    based_on: str | None = None


_DEFAULTS = ComputedStyle(id="", name="-")
PROPERTIES = tuple(ComputedStyle.__struct_fields__[2:])
CHARACTER_PROPERTIES = tuple(Look.__struct_fields__)

S = TypeVar("S", ParagraphStyle, CharacterStyle)


def own(style: ParagraphStyle | CharacterStyle, name: str) -> object:
    """What a style says itself of a property: `UNSET` or None where it follows another.

    A paragraph style that is based on no other says the default.
    """
    value = getattr(style, name)
    root = isinstance(style, ParagraphStyle) and style.based_on is None
    return getattr(_DEFAULTS, name) if root and value is UNSET else value


def chain_of(styles: Sequence[S], style_id: str) -> tuple[S, ...]:
    """A style's bases, the most distant first, then the style itself.

    A base that does not exist, or a circle, which no valid publication has, ends the chain.
    """
    known = {s.id: s for s in styles}
    return tuple([known[i] for i in chain(known, style_id, lambda i: known[i].based_on)])


@remembered()
def computed_paragraphs(styles: tuple[ParagraphStyle, ...]) -> dict[str, ComputedStyle]:
    """Every paragraph style by id, with what it follows filled in."""
    return {style.id: _computed(chain_of(styles, style.id)) for style in styles}


def _computed(chain: tuple[ParagraphStyle, ...]) -> ComputedStyle:
    values: dict[str, object] = {}
    for style in chain:
        said = ((name, getattr(style, name)) for name in PROPERTIES)
        values |= {name: value for name, value in said if value is not UNSET}
    return ComputedStyle(id=chain[-1].id, name=chain[-1].name, **values)  # type: ignore[arg-type]


@remembered()
def computed_characters(styles: tuple[CharacterStyle, ...]) -> dict[str, CharacterStyle]:
    """Every character style by id, with what it follows of its bases filled in."""
    return {style.id: _merged(chain_of(styles, style.id)) for style in styles}


def _merged(chain: tuple[CharacterStyle, ...]) -> CharacterStyle:
    values: dict[str, object] = {}
    for style in chain:
        said = ((name, getattr(style, name)) for name in CHARACTER_PROPERTIES)
        values |= {name: value for name, value in said if value is not None}
    return CharacterStyle(id=chain[-1].id, name=chain[-1].name, **values)  # type: ignore[arg-type]


def computed_style(styles: tuple[ParagraphStyle, ...], style_id: str) -> ComputedStyle:
    """One paragraph style with what it follows filled in; raises `Refusal` for an unknown one."""
    found = computed_paragraphs(styles).get(style_id)
    if found is None:
        raise Refusal(f"There is no paragraph style “{style_id}” in this publication.")
    return found
