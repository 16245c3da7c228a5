"""Text as paragraphs of runs and markers.

>>> said = Paragraph(style="body", content=(Run("Page "), Marker("folio")))
>>> [type(piece).__name__ for piece in said.content]
['Run', 'Marker']
"""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

from hidden_frame.model.geometry import Crop, Fit, NotNegative, Share

MAX_FONT_SIZE = 2000  # points
FontSize = Annotated[float, Meta(gt=0, le=MAX_FONT_SIZE)]

MarkerKind = Literal[
    "folio",
    "page count",
    "section pages",
    "section last folio",
    "section name",
    "title",
    "detail",
    "running head",
    "story name",
    "next section",
    "previous section",
    "continued on",
    "continued from",
    "facing folio",
    "date",
    "file name",
    "reference",
]
# The same on every page, so that they may stand in a text that flows over many.
STEADY: frozenset[MarkerKind] = frozenset(
    ("page count", "title", "detail", "story name", "date", "file name", "reference")
)
# A language by its code, with a country where it matters: en_GB, de, pt_BR (ISO 639, ISO 3166).
Language = Annotated[str, Meta(pattern="^[a-z]{2,3}(_[A-Za-z]{2,8})*$", max_length=20)]
Alignment = Literal["left", "right", "centre", "justified", "inside", "outside"]


Case = Literal["as typed", "capitals", "small capitals"]
Figures = Literal["as the font", "lining", "old style"]
FigureWidth = Literal["as the font", "proportional", "tabular"]
Raised = Literal["no", "superior", "inferior"]
# Another form of a letter: an OpenType feature, with the number of the form where it has several.
Alternate = Annotated[str, Meta(pattern="^([a-z0-9]{4}(=[0-9]{1,3})?)?$", max_length=8)]
# Whether words are looked up; by its name: but for a style of names or of code.
Spelling = Literal["by its name", "checked", "not checked"]
BaselineShift = Annotated[float, Meta(ge=-500, le=500)]


class Look(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What single characters change of their styles; None follows the style.

    `shift` lifts them above the baseline, or lowers them, in points.  They take the colour
    `on_dark` where what is printed beneath their frame is dark.

    >>> Run("new", look=Look(italic=True)).look.italic
    True
    """

    family: str | None = None
    bold: bool | None = None
    italic: bool | None = None
    size: FontSize | None = None
    tracking: Annotated[float, Meta(ge=-500, le=2000)] | None = None
    colour: str | None = None
    tint: Share | None = None
    language: Language | None = None
    underline: bool | None = None
    strike: bool | None = None
    case: Case | None = None
    figures: Figures | None = None
    figure_width: FigureWidth | None = None
    raised: Raised | None = None
    fractions: bool | None = None
    shift: BaselineShift | None = None
    spelling: Spelling | None = None
    alternate: Alternate | None = None
    on_dark: str | None = None


class Run(
    Struct, frozen=True, tag="run", tag_field="kind", omit_defaults=True, forbid_unknown_fields=True
):
    """A stretch of text in one character style (None: the paragraph's own look).

    A tab is U+0009, a line break within a paragraph U+2028.
    """

    text: str
    style: str | None = None
    look: Look | None = None


Which = Literal["first", "last", "at the top", "before"]
HeadPart = Literal["text", "number", "number and text"]
Over = Literal["page", "spread", "facing page"]


class Head(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Which paragraph of a style a running head shows (R28), and what of it.

    It is the `first` or the `last` one that begins on the page (or on its spread, or on the page
    that faces it), and the latest one before where none does; the one that is in force `at the
    top`; or the latest one `before` in any case.  What stands `between` number and text is said.
    `style` is a paragraph style, or a character style for entries within paragraphs.  It `stops` at
    a paragraph of a higher level: a section's head at the next chapter.
    """

    style: str
    which: Which = "first"
    part: HeadPart = "text"
    between: Annotated[str, Meta(max_length=40)] = " "
    over: Over = "page"
    stops: bool = True


Told = Literal["text", "number", "number and text", "folio"]


class Reference(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a reference tells of a `place`, an id that a paragraph has.

    `said` is what it says now, and `page` where that stands; both are worked out anew at each
    change.
    """

    place: str
    tells: Told = "text"
    said: str = ""
    page: str = ""


class Marker(
    Struct,
    frozen=True,
    tag="marker",
    tag_field="kind",
    omit_defaults=True,
    forbid_unknown_fields=True,
):
    """A piece of text filled in by the program; `detail` names the detail to show, `head` says
    which running head, `form` how a date is written (a form of `compose.dates`), `refers` to
    what a reference refers."""

    shows: MarkerKind
    detail: str | None = None
    style: str | None = None
    look: Look | None = None
    head: Head | None = None
    form: Annotated[str, Meta(max_length=40)] = ""
    refers: Reference | None = None


Stands = Literal["in the line", "above the line", "inside", "outside"]
AnchoredLength = Annotated[float, Meta(ge=1, le=5000)]


class Anchor(
    Struct,
    frozen=True,
    tag="anchor",
    tag_field="kind",
    omit_defaults=True,
    forbid_unknown_fields=True,
):
    """A picture with its caption below it, or a caption alone, that travels with the text: it
    stands in the line it is anchored in, above that line, or in the inside or outside margin.

    `width` and `height` are the picture's (points; a caption is as high as it needs to be);
    `distance` parts it from the text it stands above or beside; `shift` lifts it.  A caption is
    set in a paragraph style; None: that of its paragraph.

    >>> Anchor(width=20, height=20, stands="in the line").picture is None
    True
    """

    width: AnchoredLength = 72.0
    height: AnchoredLength = 72.0
    stands: Stands = "above the line"
    picture: str | None = None
    fit: Fit = "fit"
    crop: Crop | None = None
    distance: Annotated[float, Meta(ge=0, le=1000)] = 6.0
    shift: BaselineShift = 0.0
    caption: Annotated[str, Meta(max_length=2000)] = ""
    caption_style: str | None = None
    style: str | None = None
    look: Look | None = None


Reach = Literal["here", "begins", "ends"]
Term = Annotated[str, Meta(max_length=200)]


class IndexMark(
    Struct,
    frozen=True,
    tag="index",
    tag_field="kind",
    omit_defaults=True,
    forbid_unknown_fields=True,
):
    """A mark by which its page is listed in the index, under a term and perhaps a sub-term;
    `begins` and `ends` mark a range of pages.  One that says `see` lists that term instead of its
    page, `see_also` names another one besides.

    >>> IndexMark("Stars", "double").reach
    'here'
    """

    term: Annotated[str, Meta(min_length=1, max_length=200)]
    sub: Term = ""
    see: Term = ""
    see_also: Term = ""
    reach: Reach = "here"
    style: str | None = None
    look: Look | None = None


class Note(
    Struct,
    frozen=True,
    tag="note",
    tag_field="kind",
    omit_defaults=True,
    forbid_unknown_fields=True,
):
    """A note: a raised number in its text, and what a list of notes says under it.  The `number` is
    worked out anew at each change.

    >>> Note((Run("See the last page."),)).number
    ''
    """

    content: tuple[Run, ...]
    number: str = ""
    style: str | None = None
    look: Look | None = None


Piece = Run | Marker | Anchor | IndexMark | Note

TextPlace = tuple[int, int]
"""A paragraph, counted from 0, and an offset in it; a marker, an anchor and an index mark are one
character each."""


class TabStop(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A stop at a distance from the frame's left edge; None is the right edge, or the middle for
    what is centred.

    What a tab passes over is filled with its `leader`, repeated: “.” or “ ·”.
    """

    position: NotNegative | None = None
    align: Literal["left", "right", "centre"] = "left"
    leader: Annotated[str, Meta(max_length=4)] = ""


Starts = Literal["anywhere", "frame", "page", "right page", "left page"]


class Paragraph(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Pieces set in one paragraph style; alignment, tabs, and where it `starts`, that are None are
    the style's.

    One of a numbered style may `count_from` a number, as the first of another list does.
    `short` is what running heads show of it where all of it has no room; `goes_to` is the page
    that a line of a list leads to.  What references refer to has a `place`, an id, and perhaps a
    name of its own.
    """

    style: str
    content: tuple[Piece, ...] = ()
    alignment: Alignment | None = None
    tabs: tuple[TabStop, ...] | None = None
    short: Annotated[str, Meta(max_length=200)] = ""
    goes_to: str = ""
    place: str = ""
    place_name: Annotated[str, Meta(max_length=100)] = ""
    starts: Starts | None = None
    count_from: Annotated[int, Meta(ge=1, le=1_000_000)] | None = None


Text = tuple[Paragraph, ...]


class ListLevel(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """Which paragraphs a level of a list shows, by their `style`, and the style of its own lines
    (`shown`); with their numbers and folios, or without."""

    style: str
    shown: str
    number: bool = True
    folio: bool = True


class Index(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a text lists by itself: the terms of all index marks, with their folios.

    Lines are in the style `shown`, sub-terms in `sub_shown`, or one after the other behind their
    term where they `run_in`; letters stand above in the style `letters` ("": none).
    """

    shown: str
    sub_shown: str = ""
    letters: str = ""
    run_in: bool = False
    title: Annotated[str, Meta(max_length=200)] = ""
    title_style: str = ""


NoteCount = Literal["in each story", "through the publication"]


class NoteList(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a text lists by itself: the notes of a `story`, by its id, or of all ("")."""

    shown: str
    story: str = ""
    title: Annotated[str, Meta(max_length=200)] = ""
    title_style: str = ""


class Contents(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a text lists by itself: headings, captions, whatever has a style, each with its folio.

    `sections` are those that are listed; () all.  A `title` stands above in a style of its own.
    """

    levels: tuple[ListLevel, ...]
    title: Annotated[str, Meta(max_length=200)] = ""
    title_style: str = ""
    sections: tuple[str, ...] = ()
