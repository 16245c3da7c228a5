"""Every kind of finding, a row each: what finds it, what helps, which page of the guide explains
it, and how it is counted.  A new check is a function and a row here.

>>> from hidden_frame.checks.kinds import kind_of
>>> kind_of("low resolution").many
'pictures of low resolution'
>>> kind_of("low resolution").guide
'Export for print'
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from hidden_frame.checks import names, numbering, order, rules, sections, stories, terms, ways
from hidden_frame.checks.anchored import anchored_faults
from hidden_frame.checks.covered import covered_faults, mixed_faults
from hidden_frame.checks.edges import edge_faults, empty_faults
from hidden_frame.checks.fault import ItemCheck
from hidden_frame.checks.finding import Finding
from hidden_frame.checks.lines import line_findings
from hidden_frame.checks.order import with_facts
from hidden_frame.checks.pictures import picture_faults
from hidden_frame.checks.ways import ItemWays
from hidden_frame.checks.words import does_not_fit, missing_characters
from hidden_frame.compose.composition import Composition
from hidden_frame.model.publication import Publication

OrderCheck = Callable[[Publication], Iterable[Finding]]
TextCheck = Callable[[Composition], Iterable[Finding]]

INTO_PRINT = "Export for print"
_NUMBERS = "Number the pages"
_ORDER = "Order and sections"
_HEADS = "Running heads"
_STORIES = "A book from a manuscript"
_DRIVEN = "Heads, contents and index from the text"
_LINES = "Book typography"


class Kind(NamedTuple):
    """One kind of finding.

    `order`, `text` or `item` is what finds it: in the publication alone, with all text laid out,
    or in one item of a page; one function may find several kinds, and is called once.  `ways`
    gives the ways out of a fault of an item.  `guide` is the title of a page of the guide.

    `one` and `many` count it before an export; "" for what prints as it is seen.  `came` is how
    one and several are told that a change of the page's size would bring.
    """

    id: str
    guide: str = INTO_PRINT
    order: OrderCheck | None = None
    text: TextCheck | None = None
    item: ItemCheck | None = None
    ways: ItemWays | None = None
    one: str = ""
    many: str = ""
    came: tuple[str, str] | None = None


# In the order in which they are told.
KINDS: tuple[Kind, ...] = (
    Kind("equal folios", _NUMBERS, order=with_facts(numbering.equal_folios)),
    Kind("even rectos", _NUMBERS, order=with_facts(numbering.even_rectos)),
    Kind("opening side", _ORDER, order=with_facts(order.openings)),
    Kind("out of range", _NUMBERS, order=with_facts(order.out_of_range)),
    Kind("empty section", _ORDER, order=order.empty_sections),
    Kind("parted spread", _ORDER, order=with_facts(order.parted_ties)),
    Kind("sheets", _ORDER, order=order.sheets),
    Kind("sleeping override", "Change one page", order=order.asleep),
    Kind("missing font", order=names.missing_families),
    Kind("idle detail", _HEADS, order=names.detail_findings),
    Kind("lost detail", _HEADS, order=names.detail_findings),
    Kind("idle head", _DRIVEN, order=names.head_findings),
    Kind("lost reference", _DRIVEN, order=names.reference_findings),
    Kind("notes without a list", text=stories.story_findings),
    Kind(
        "story does not fit", _STORIES, text=stories.story_findings,
        one="story that does not fit", many="stories that do not fit",
        came=("story does not fit any more", "stories do not fit any more"),
    ),
    Kind("idle rule", _DRIVEN, text=rules.rule_findings),
    Kind("moved cause", text=rules.rule_findings),
    Kind("astray section", _ORDER, text=sections.section_findings),
    Kind("empty pages", _STORIES, text=sections.section_findings),
    Kind("waiting pages", _STORIES, text=sections.section_findings),
    Kind("lost term", _DRIVEN, text=terms.term_findings),
    Kind(
        "text does not fit", item=does_not_fit, ways=ways.grow,
        one="text that does not fit", many="texts that do not fit",
        came=("text does not fit any more", "texts do not fit any more"),
    ),
    Kind(
        "missing picture", item=picture_faults, ways=ways.emptied,
        one="missing picture", many="missing pictures",
    ),
    Kind(
        "unreadable picture", item=picture_faults, ways=ways.emptied,
        one="picture that can't be read", many="pictures that can't be read",
    ),
    Kind(
        "missing character", item=missing_characters, ways=ways.spelt,
        one="text with characters that no font has", many="texts with characters that no font has",
    ),
    Kind(
        "covered", item=covered_faults, ways=ways.around,
        one="text with words under something", many="texts with words under something",
    ),
    Kind(
        "mixed ground", item=mixed_faults,
        one="text on ground that is half dark", many="texts on ground that is half dark",
    ),
    Kind(
        "off the page", item=edge_faults, ways=ways.onto,
        one="item off its page", many="items off their pages",
        came=("thing lies off its page", "things lie off their pages"),
    ),
    Kind(
        "cut at the spine", item=edge_faults, ways=ways.onto,
        one="item cut at the spine", many="items cut at the spine",
        came=("thing is cut at the spine", "things are cut at the spine"),
    ),
    Kind(
        "short of the bleed", item=edge_faults, ways=ways.bled,
        one="item short of the bleed", many="items short of the bleed",
        came=("thing stops short of the bleed", "things stop short of the bleed"),
    ),
    Kind(
        "low resolution", item=picture_faults, ways=ways.smaller,
        one="picture of low resolution", many="pictures of low resolution",
    ),
    Kind(
        "anchored off the page", item=anchored_faults,
        one="anchored picture off its page", many="anchored pictures off their pages",
    ),
    Kind(
        "anchored smaller", item=anchored_faults,
        one="anchored picture without room", many="anchored pictures without room",
    ),
    Kind(
        "anchored empty", item=anchored_faults,
        one="anchored frame without a picture", many="anchored frames without pictures",
    ),
    Kind(
        "prints nothing", item=empty_faults, ways=ways.removed,
        one="frame that prints nothing", many="frames that print nothing",
    ),
    Kind("loose line", _LINES, item=line_findings),
    Kind("tight line", _LINES, item=line_findings),
    Kind("hyphen ladder", _LINES, item=line_findings),
    Kind("short last line", _LINES, item=line_findings),
    Kind("same word", _LINES, item=line_findings),
    Kind("river", _LINES, item=line_findings),
    Kind("widow", _LINES, item=line_findings),
    Kind("orphan", _LINES, item=line_findings),
    Kind("looser", _LINES, item=line_findings),
)  # fmt: skip


def kind_of(kind_id: str) -> Kind:
    """The row of a kind.  Raises KeyError for one that is in no row."""
    for kind in KINDS:
        if kind.id == kind_id:
            return kind
    raise KeyError(kind_id)


def rank_of(kind_id: str) -> int:
    """Its place in the order in which kinds are told."""
    return KINDS.index(kind_of(kind_id))


def item_checks() -> tuple[ItemCheck, ...]:
    """What looks at items of pages, each once."""
    return tuple(dict.fromkeys(k.item for k in KINDS if k.item is not None))


def order_checks() -> tuple[OrderCheck, ...]:
    """What looks at the publication alone, each once."""
    return tuple(dict.fromkeys(k.order for k in KINDS if k.order is not None))


def text_checks() -> tuple[TextCheck, ...]:
    """What has all of the text laid out, each once."""
    return tuple(dict.fromkeys(k.text for k in KINDS if k.text is not None))
