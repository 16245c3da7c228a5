"""What the user looks at and has selected, as a value."""

from __future__ import annotations

from typing import Literal, NamedTuple

from msgspec import Struct

from hidden_frame.compose.facts import page_facts
from hidden_frame.interact.hands.faces import Face, faces_of_master, faces_of_spread
from hidden_frame.interact.hands.line_up import AlignTo
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import all_pages, masters_by_id, positions
from hidden_frame.model.plane.box import Handle
from hidden_frame.model.publication import Publication

Mode = Literal["pages", "masters"]
Pane = Literal["desk", "board", "flatplan"]
Tool = Literal["select", "text", "picture", "rectangle", "rounded", "ellipse", "line"]


class Editing(NamedTuple):
    """The text frame whose text is being edited."""

    holder_id: str
    item_id: str
    side: Side


class GuideAt(NamedTuple):
    """A guide by its page or master and its place among the guides there."""

    holder_id: str
    number: int


class Sight(Struct, frozen=True, kw_only=True):
    """Where one is in a publication.

    Each act of looking or selecting makes another of it (`acts`); what an edit took away is
    dropped from it (`kept`).
    """

    page_id: str
    position: int = 1  # of that page, for when it is deleted
    holder_id: str  # the page or master that is worked on
    side: Side
    mode: Mode = "pages"
    pane: Pane = "desk"
    from_flatplan: bool = False  # whether the page on the desk was opened from there
    master_id: str = ""
    items: tuple[str, ...] = ()
    guide: GuideAt | None = None
    pages: tuple[str, ...] = ()  # selected; the page on the desk is one of them
    section_id: str = ""  # the section that is selected as such
    unlocked: frozenset[tuple[str, str]] = frozenset()  # holders and items of their masters
    editing: Editing | None = None
    lost: Editing | None = None  # the frame that one wrote in, which an edit took away
    cropping: bool = False  # whether the selected picture is moved in its frame
    linking: tuple[str, str] | None = None  # the page and frame whose text is to go on
    tool: Tool = "select"
    proof: bool = False
    paths: bool = False  # whether the paths of stories are shown
    tinted: bool = False  # whether lines are tinted by their spaces
    signs: bool = False  # whether characters that print nothing have signs
    reference: Handle = (-1, -1)  # the one of nine points that Properties go by
    align_to: AlignTo = "selection"
    zero: tuple[float, float] = (0.0, 0.0)  # of the rulers, from the corner of each page, in points


def first_sight(publication: Publication) -> Sight:
    """The first page of a publication, and nothing selected."""
    page = all_pages(publication)[0].id
    side = page_facts(publication)[page].side
    master = publication.masters[0].id if publication.masters else ""
    return Sight(page_id=page, holder_id=page, side=side, master_id=master)


def is_there(sight: Sight, publication: Publication) -> bool:
    """Whether the page on the desk, and those selected, are there."""
    order = positions(publication)
    return sight.page_id in order and all(page in order for page in sight.pages)


def faces_on_desk(sight: Sight, publication: Publication) -> tuple[Face, ...]:
    """What lies on the desk, from left to right; a facing recto stands at trim width."""
    if sight.mode == "masters" and sight.master_id:
        return faces_of_master(publication, sight.master_id)
    return faces_of_spread(publication, sight.page_id)


def side_of(sight: Sight, publication: Publication, holder_id: str) -> Side:
    """The side of a page; of a master, the face that is worked on."""
    if holder_id in masters_by_id(publication):
        return sight.side if publication.setup.facing else "recto"
    return page_facts(publication)[holder_id].side
