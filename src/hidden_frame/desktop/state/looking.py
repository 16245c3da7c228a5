"""What is looked at and selected, for the window: which is told when it is another."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any, Generic, TypeVar

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.scene import Scene
from hidden_frame.interact.hands.faces import Face, may_change_all, with_groups
from hidden_frame.interact.hands.hits import Spot, owner_of
from hidden_frame.interact.hands.line_up import AlignTo
from hidden_frame.interact.sight import acts
from hidden_frame.interact.sight.kept import kept
from hidden_frame.interact.sight.value import (
    Editing,
    GuideAt,
    Mode,
    Pane,
    Sight,
    Tool,
    faces_on_desk,
    first_sight,
    side_of,
)
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.plane.box import Handle
from hidden_frame.model.publication import Publication

_T = TypeVar("_T")


class Of(Generic[_T]):
    """One field of the sight, to be read; it becomes another by an act."""

    def __set_name__(self, owner: type, name: str) -> None:
        self.name = name

    def __get__(self, looking: Looking, owner: type) -> _T:
        found: _T = getattr(looking.sight, self.name)
        return found

    def __set__(self, looking: Looking, value: Any) -> None:
        raise AttributeError(f"{self.name} becomes another by an act, as interact/sight has them")


class Looking(QObject):
    """`changed`: the publication (or its draft) is another, and with it perhaps what is
    selected; `looked`: only what is looked at or selected is another."""

    changed = Signal()
    looked = Signal()
    noticed = Signal(str)
    copied = Signal(object)  # copies of frames that show a story: what they show is asked
    fill_wanted = Signal(object)  # pages that the text of the frame in `linking` is to fill
    stepped = Signal(bool)  # a step was undone (True) or done again
    undoable = Signal(str)  # what was just done, in words, to be undone at once if unwanted

    sight: Sight
    mode = Of[Mode]()
    pane = Of[Pane]()
    from_flatplan = Of[bool]()
    page_id = Of[str]()
    master_id = Of[str]()
    holder_id = Of[str]()
    side = Of[Side]()
    items = Of[tuple[str, ...]]()
    guide = Of[GuideAt | None]()
    pages = Of[tuple[str, ...]]()
    section_id = Of[str]()
    unlocked = Of[frozenset[tuple[str, str]]]()
    editing = Of[Editing | None]()
    lost = Of[Editing | None]()
    cropping = Of[bool]()
    linking = Of[tuple[str, str] | None]()
    tool = Of[Tool]()
    proof = Of[bool]()
    paths = Of[bool]()
    tinted = Of[bool]()
    signs = Of[bool]()
    reference = Of[Handle]()
    align_to = Of[AlignTo]()
    zero = Of[tuple[float, float]]()

    @property
    def publication(self) -> Publication:
        """What is to be shown."""
        raise NotImplementedError

    @property
    def composition(self) -> Composition:
        """The same, laid out."""
        raise NotImplementedError

    def seal(self) -> None:
        """What is typed next is an undo step of its own."""
        raise NotImplementedError

    def look_at(self, publication: Publication) -> None:
        """The first page of a publication, and nothing selected; it is not told."""
        self.sight = first_sight(publication)

    def keep_what_exists(self, publication: Publication) -> None:
        """Drops from the sight what an edit or an undo took away; it is not told."""
        self.sight = kept(self.sight, publication)

    def _see(self, sight: Sight) -> None:
        self.sight = sight
        self.looked.emit()

    # -- the desk ----------------------------------------------------------------

    def scene_of(self, face: Face) -> Scene:
        """What a page or face on the desk shows."""
        composition = self.composition
        if face.holder_id in masters_by_id(self.publication):
            return composition.master_scene(face.holder_id, face.side)
        return composition.scene(face.holder_id)

    def owning(self, spot: Spot, slack: float = 0.0) -> Spot:
        """The spot as it is seen from the page whose item is topmost there, which may be the one
        that faces the page it lies on."""
        return owner_of(self.scene_of(spot.face), self.faces(), spot, slack)

    def with_groups(self, holder_id: str, items: tuple[str, ...]) -> tuple[str, ...]:
        """The items, and with each one the rest of its group."""
        return with_groups(self.publication, holder_id, items)

    def faces(self) -> tuple[Face, ...]:
        """What lies on the desk, from left to right; a facing recto stands at trim width."""
        return faces_on_desk(self.sight, self.publication)

    def side_of(self, holder_id: str) -> Side:
        """The side of a page; of a master, the face that is worked on."""
        return side_of(self.sight, self.publication, holder_id)

    def show_page(self, page_id: str) -> None:
        """Lays the page's spread on the desk."""
        self._see(acts.on_page(self.sight, self.publication, page_id))

    def show_master(self, master_id: str, *, on_desk: bool = False) -> None:
        """Lays a master on the desk; where the board is seen it is shown there, unless the desk
        is wanted."""
        if not master_id:
            return
        before = replace(self.sight, pane="desk") if on_desk else self.sight
        self._see(acts.on_master(before, master_id))

    def show_board(self) -> None:
        """Shows the family of masters in place of the desk."""
        if self.publication.masters:
            self._see(acts.on_board(self.sight))

    def show_flatplan(self) -> None:
        """Shows the whole publication in place of the desk, without selecting a page."""
        self._see(acts.on_flatplan(self.sight, self.publication))

    def open_from_flatplan(self, page_id: str) -> None:
        """A page on the desk, from which one comes back to the same place."""
        self.show_page(page_id)
        self.sight = replace(self.sight, from_flatplan=True)

    def show_desk(self) -> None:
        """The desk again, with what lay on it."""
        if self.pane != "desk":
            self._see(replace(self.sight, pane="desk"))

    # -- selecting ---------------------------------------------------------------

    def select_items(self, face: Face | None, items: tuple[str, ...]) -> None:
        """Selects items of a page or face; None keeps the present one."""
        self._see(acts.with_items(self.sight, self.publication, face, items))

    def hold(self, face: Face, items: tuple[str, ...]) -> None:
        """Items are in a hand over a face; the draft of the gesture tells it."""
        self.sight = acts.held(self.sight, face, items)

    def select_guide(self, holder_id: str, index: int) -> None:
        """Selects a guide instead of items."""
        self._see(acts.with_guide(self.sight, GuideAt(holder_id, index)))

    def let_guide_go(self) -> None:
        """No guide is selected any more."""
        self._see(acts.with_guide(self.sight, None))

    def set_reference(self, point: Handle) -> None:
        """The point of the selection that x and y in Properties name."""
        self._see(replace(self.sight, reference=point))

    def set_align_to(self, what: AlignTo) -> None:
        """What the selected items are lined up with."""
        self._see(replace(self.sight, align_to=what))

    def set_zero(self, x: float, y: float) -> None:
        """Where the rulers count from, on each page."""
        self._see(replace(self.sight, zero=(x, y)))

    def select_pages(self, pages: tuple[str, ...], lead: str = "") -> None:
        """Selects pages; the page on the desk is one of them: `lead`, or the one that is there,
        or the first."""
        self._see(acts.with_pages(self.sight, self.publication, pages, lead))

    def mark_pages(self, pages: tuple[str, ...]) -> None:
        """Shows pages as selected while they are dragged across; the desk stays as it is."""
        if pages != self.pages:
            self._see(replace(self.sight, pages=pages, section_id=""))

    def select_section(self, section_id: str, before: tuple[str, ...] = ()) -> None:
        """Selects a section with all its pages, besides those that are selected `before`."""
        self._see(acts.with_section(self.sight, self.publication, section_id, before))

    # -- what the hand does ------------------------------------------------------

    def set_tool(self, tool: Tool) -> None:
        """Another tool, on the desk."""
        self._see(acts.with_tool(self.sight, tool))

    def set_proof(self, proof: bool) -> None:
        """As it prints, or as one works."""
        self._see(acts.in_proof(self.sight, proof))

    def edit_text(self, editing: Editing | None) -> None:
        """Starts or ends editing a frame's text."""
        self.seal()
        self._see(acts.writing(self.sight, editing))

    def write_in(self, editing: Editing) -> None:
        """Goes on writing in another frame of the same text, on whichever page it stands."""
        if editing != self.editing:
            self._see(acts.writing_on(self.sight, self.publication, editing))

    def find_lost(self) -> Editing | None:
        """The frame that one wrote in and that an edit took away, once."""
        lost = self.lost
        self.sight = replace(self.sight, lost=None)
        return lost

    def show_paths(self, on: bool) -> None:
        """Shows the paths of stories on the desk, or not."""
        self._see(replace(self.sight, paths=on))

    def tint_lines(self, on: bool) -> None:
        """Tints lines on the desk by how far their spaces are from natural, or not."""
        self._see(replace(self.sight, tinted=on))

    def show_signs(self, on: bool) -> None:
        """Shows signs on the desk where characters print nothing, or not."""
        self._see(replace(self.sight, signs=on))

    def link_from(self, page_id: str, item_id: str) -> None:
        """A frame waits to be linked to the next one that is clicked; "" ends that."""
        self._see(replace(self.sight, linking=(page_id, item_id) if item_id else None))

    def crop(self, on: bool) -> None:
        """Starts or ends moving the selected picture in its frame."""
        self._see(replace(self.sight, cropping=on))

    # -- what may be changed -----------------------------------------------------

    def may_change(self, holder_id: str, item_id: str) -> bool:
        """Whether an item is its holder's own, or was unlocked there by an override."""
        return self.may_change_all(holder_id, (item_id,))

    def may_change_all(self, holder_id: str, item_ids: tuple[str, ...]) -> bool:
        """The same for several items at once."""
        side, unlocked = self.side_of(holder_id), self.sight.unlocked
        return may_change_all(self.publication, holder_id, side, item_ids, unlocked)

    def unlock(self, holder_id: str, *item_ids: str) -> None:
        """Lets master items be overridden on this page."""
        self._see(acts.with_unlocked(self.sight, holder_id, item_ids))

    def lock(self, holder_id: str, *item_ids: str) -> None:
        """They follow again, and are not to be changed by mistake; the edit that does it tells."""
        self.sight = acts.with_locked(self.sight, frozenset((holder_id,)), frozenset(item_ids))

    def lock_pages(self, pages: Collection[str]) -> None:
        """The same for all items of some pages."""
        self.sight = acts.with_locked(self.sight, frozenset(pages))
