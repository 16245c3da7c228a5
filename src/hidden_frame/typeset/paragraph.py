"""What typesetting is given: paragraphs of spans, every length in points."""

from __future__ import annotations

from typing import Literal, NamedTuple

from hidden_frame.model.text import Anchor, Stands
from hidden_frame.typeset.hyphenation import Dividing
from hidden_frame.typeset.shaping import Setting


class SpotInk(NamedTuple):
    """An ink of its own, at a tint, and the CMYK that stands in for it at full strength."""

    name: str
    tint: float
    cmyk: tuple[float, ...]


Ink = tuple[float, ...] | SpotInk  # three RGB or four CMYK shares, or a spot colour
PhysicalAlign = Literal["left", "right", "centre", "justified"]


class Anchored(NamedTuple):
    """Something with a size that is anchored in a text (points), what it is, and the paragraphs
    of its `caption`.

    `distance` parts it from the text that it stands above or beside, `shift` lifts it.
    """

    stands: Stands
    width: float
    height: float
    distance: float = 0.0
    shift: float = 0.0
    what: Anchor | None = None
    caption: tuple[ParagraphSpec, ...] = ()


class Span(NamedTuple):
    """A stretch of text in one look.

    A marker's span counts as a single character of its source, whatever it shows; one that
    `goes_on` shows more of the marker before it and counts as none.  `language` None: its
    words are not hyphenated.  What is `anchored` counts as a marker and has no glyphs.
    It `goes_to` a page, if it is a reference to it, and is `spelled` in a language, if its words
    are looked up. No line begins with what is `raised` or lowered behind a word.  On dark ground
    its ink is `dark`, if it has another there.
    """

    text: str
    setting: Setting
    ink: Ink
    marker: bool = False
    language: Dividing | None = None
    goes_on: bool = False
    underline: bool = False
    strike: bool = False
    anchored: Anchored | None = None
    goes_to: str = ""
    spelled: str = ""
    raised: bool = False
    dark: Ink | None = None


class Tab(NamedTuple):
    """A tab stop; position None is the right edge of the measure, or the middle of it for what
    stands `centre`, `leader` what fills the way."""

    position: float | None
    align: Literal["left", "right", "centre"]
    leader: str = ""


class Spacing(NamedTuple):
    """How a paragraph's lines are broken.

    `whole`: over the whole paragraph, not line by line.  A word space may be from `least` to
    `most` of its natural width (common practice of the trade); `hyphens` is how many divided
    words may end lines in a row.  `letters` (1/1000 em) is how much wider letters may be spaced in
    a line that is looser than that, `glyphs` the share by which letters themselves may be wider,
    or narrower where it is tight; `hangs` lets marks at a line's ends stand out of it;
    ragged lines that are `balanced` are all about as long.
    """

    whole: bool = True
    least: float = 0.85
    most: float = 1.5
    hyphens: int = 3
    letters: float = 0.0
    hangs: bool = False
    balanced: bool = False
    glyphs: float = 0.0


Starts = Literal["anywhere", "frame", "page", "right page", "left page"]


class Keeps(NamedTuple):
    """What is not to be parted: the paragraph from the next one, its lines from each other;
    `foot` and `head` are the fewest of its lines at the foot of a region and at the head of the
    next one; `hyphen_ends` are the pages that may end with a divided word of it."""

    next: bool = False
    together: bool = False
    foot: int = 1
    head: int = 1
    starts: Starts = "anywhere"
    hyphen_ends: Literal["anywhere", "not at rectos", "not at pages"] = "anywhere"


class Border(NamedTuple):
    """A rule above or below a paragraph (points): as wide as the column, or as its line."""

    weight: float
    offset: float
    wide: bool


class Drop(NamedTuple):
    """The letters with which a paragraph begins, set over so many lines."""

    span: Span
    lines: int


class Dress(NamedTuple):
    """What a paragraph has besides its lines: rules, initials, a place on the grid, whether
    anything is `anchored` in it, its level of direction (UAX #9; None: by its letters), the page
    that it leads to, and whether cells divided by tabs are `turned`: the first stands where the
    last would."""

    above: Border | None = None
    below: Border | None = None
    drop: Drop | None = None
    on_grid: bool = False
    anchored: bool = False
    level: int | None = None
    goes_to: str = ""
    turned: bool = False


class ParagraphSpec(NamedTuple):
    """A paragraph ready to be set."""

    spans: tuple[Span, ...]
    base: Setting
    leading: float
    align: PhysicalAlign = "left"
    before: float = 0.0
    after: float = 0.0
    left: float = 0.0
    right: float = 0.0
    first: float = 0.0
    tabs: tuple[Tab, ...] = ()
    style_name: str = ""
    ink: Ink = (0.0, 0.0, 0.0)
    spacing: Spacing = Spacing()
    keeps: Keeps = Keeps()
    dress: Dress = Dress()


def words_in(spec: ParagraphSpec) -> str:
    """A paragraph's text as it is shown, initials included, without the number before it."""
    initials = spec.dress.drop.span.text if spec.dress.drop is not None else ""
    return initials + "".join([s.text for s in spec.spans if not (s.goes_on or s.anchored)])
