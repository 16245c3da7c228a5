"""The publication: a tree of immutable values, from the trim size to the last run of text."""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

from hidden_frame.model.geometry import (
    Columns,
    Grid,
    Guide,
    Margins,
    NotNegative,
    Share,
    Side,
    Size,
)
from hidden_frame.model.items import Item, Override
from hidden_frame.model.numbering import NumberingStyle
from hidden_frame.model.paint import Colour, Layer
from hidden_frame.model.stories import Story
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle
from hidden_frame.model.text import Language, NoteCount
from hidden_frame.model.units import Unit

MAX_PAGES = 5000
TONES = 16  # cells of a picture, across and down, whose colours are known
PictureKind = Literal["png", "jpg", "svg", "tif"]


class Setup(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """Trim, bleed, and how pages face each other.

    Read right to left, a spread's first page lies on the right: `recto` and `verso`
    name right and left pages always.  `opening` "recto" lets the first page stand
    alone.  `sheet` is the number of pages that the count shall be a multiple of.
    Checks tell lines to mend where `judges_lines` says, pictures with fewer pixels to an inch
    than `least_ppi`, drawings of black and
    white pixels than `least_line_ppi`.
    """

    trim: Size
    bleed: NotNegative = 0.0
    facing: bool = True
    opening: Side = "recto"
    margins: Margins = Margins()
    columns: Columns = Columns()
    grid: Grid | None = None
    unit: Unit = "mm"
    direction: Literal["left to right", "right to left"] = "left to right"
    sheet: Literal[1, 2, 4, 8, 16, 32] = 4
    judges_lines: Literal["nowhere", "in stories", "everywhere"] = "in stories"
    least_ppi: Annotated[float, Meta(ge=1, le=5000)] = 200.0
    least_line_ppi: Annotated[float, Meta(ge=1, le=5000)] = 600.0


class Master(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A master page.  Margins, columns, guides and grid that are None come from
    the base, or from the publication where there is none (R6).  `opens` is the side
    that a section which opens with it is meant to begin on."""

    id: str
    name: Annotated[str, Meta(min_length=1)]
    ribbon: Annotated[int, Meta(ge=0, le=11)] = 0
    base: str | None = None
    margins: Margins | None = None
    columns: Columns | None = None
    guides: tuple[Guide, ...] | None = None
    grid: Grid | None = None
    items: tuple[Item, ...] = ()
    overrides: tuple[Override, ...] = ()
    opens: Literal["either", "recto", "verso"] = "either"


RuleWhen = Literal["style", "first", "last", "odd", "even", "no text"]
RuleUntil = Literal["page", "section", "rule"]


class MasterRule(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """Which masters automatic pages follow by what they are (R27): those on which a paragraph of a
    `style` begins, the first, last, odd or even ones of their section, those without any text.

    A rule of a style holds for that page alone, until its section ends, or until another rule.
    `sections` are those that it is for; () all of them.
    """

    id: str
    when: RuleWhen = "style"
    style: str = ""
    masters: tuple[str, ...] = ()
    until: RuleUntil = "page"
    sections: tuple[str, ...] = ()


class Page(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A page.  `masters` bottom to top; None is automatic, () is no master (R8).  `ruled` are those
    that the rule of that id gives an automatic page; both are worked out anew at each change.

    Two pages of the same `tie` are meant to face each other (R23); a page that is
    `held` stays at that position, counted from 1.  One that was `made` by a story that needed
    it goes again when it is empty and nothing was done to it (R26).
    """

    id: str
    masters: tuple[str, ...] | None = None
    items: tuple[Item, ...] = ()
    overrides: tuple[Override, ...] = ()
    guides: tuple[Guide, ...] = ()
    blind: bool = False
    made: bool = False
    tie: str | None = None
    held: Annotated[int, Meta(ge=1, le=MAX_PAGES)] | None = None
    ruled: tuple[str, ...] | None = None
    rule: str = ""


class Numbering(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """How a section's pages are numbered (R16, R17).

    `start` None carries on from the section before; `counted` says whether pages
    of a section numbered "none" are counted when the next one carries on.
    """

    style: NumberingStyle = "decimal"
    start: Annotated[int, Meta(ge=1, le=1_000_000)] | None = None
    prefix: Annotated[str, Meta(max_length=40)] = ""
    counted: bool = False


class Section(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A run of pages with its name, numbering and default masters (None: the publication's).

    One that `begins` with a paragraph, by the id of its place, has the page that it stands on as
    its first; that is worked out anew at each change.
    """

    id: str
    name: str = ""
    numbering: Numbering = Numbering()
    masters: tuple[str, ...] | None = None
    pages: tuple[Page, ...] = ()
    begins: str = ""


class Detail(Struct, frozen=True, forbid_unknown_fields=True):
    """A named value of the publication that markers show: issue, season, edition."""

    name: Annotated[str, Meta(min_length=1)]
    value: str


OwnWord = Annotated[str, Meta(min_length=1, max_length=100)]


class About(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What a publication says of itself where its pages don't: in its PDF's information, and to
    whoever checks its spelling: `words` of its own that are right."""

    author: str = ""
    subject: str = ""
    keywords: str = ""
    language: Language = "en_GB"
    words: tuple[OwnWord, ...] = ()


class Picture(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What the publication knows of a picture; its bytes are kept by hash (SHA-256).

    Natural width and height are points for SVG, pixels otherwise; `ppi` is how many
    pixels the file puts to an inch at its actual size.  The pixels are counted as one
    looks at the picture, turned by its `orientation` (Exif 2.32, tag 0x0112).
    One that is `bilevel` knows only black and white.  The `contour` of one that is transparent
    is what can be seen of it in bands from the top down: top, bottom, left and right as shares
    of its height and width.  `tones` are its mean colours in 16 × 16 cells, row by row from the
    upper left, four bytes each: sRGB and opacity; empty where they are not known.
    """

    hash: Annotated[str, Meta(pattern="^[0-9a-f]{64}$")]
    kind: PictureKind
    width: Annotated[float, Meta(gt=0)]
    height: Annotated[float, Meta(gt=0)]
    name: str = ""
    ppi: Annotated[float, Meta(gt=0)] = 72.0
    orientation: Annotated[int, Meta(ge=1, le=8)] = 1
    bilevel: bool = False
    contour: Annotated[tuple[tuple[Share, Share, Share, Share], ...], Meta(max_length=200)] = ()
    tones: Annotated[bytes, Meta(max_length=4 * TONES * TONES)] = b""

    @property
    def size(self) -> tuple[float, float]:
        """Width and height at actual size, in points."""
        if self.kind == "svg":
            return self.width, self.height
        return self.width * 72 / self.ppi, self.height * 72 / self.ppi


class Publication(
    Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True
):
    """The whole document.  `next_id` numbers what is made next, so ids never clash."""

    title: str
    setup: Setup
    next_id: int = 1
    about: About = About()
    details: tuple[Detail, ...] = ()
    layers: tuple[Layer, ...] = ()
    colours: tuple[Colour, ...] = ()
    paragraph_styles: tuple[ParagraphStyle, ...] = ()
    character_styles: tuple[CharacterStyle, ...] = ()
    pictures: tuple[Picture, ...] = ()
    stories: tuple[Story, ...] = ()
    masters: tuple[Master, ...] = ()
    default_masters: tuple[str, ...] = ()
    rules: tuple[MasterRule, ...] = ()
    note_count: NoteCount = "in each story"
    sections: tuple[Section, ...] = ()
