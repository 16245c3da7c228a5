"""What the user looks at and has selected in a publication."""

from __future__ import annotations

from typing import Literal, NamedTuple

from PySide6.QtCore import QObject, Signal

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.scene import Scene
from hidden_frame.edit.items.guides import own_guides
from hidden_frame.interact.hands.faces import (
    Face,
    faces_of_master,
    faces_of_spread,
    may_change_all,
    with_groups,
)
from hidden_frame.interact.hands.hits import Spot, owner_of
from hidden_frame.interact.hands.line_up import AlignTo
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import all_pages, find_section, masters_by_id, positions
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


class Sight(QObject):
    """`changed`: the publication (or its draft) is another, and with it perhaps what is
    selected; `looked`: only what is looked at or selected is another."""

    changed = Signal()
    looked = Signal()
    noticed = Signal(str)
    copied = Signal(object)  # copies of frames that show a story: what they show is asked
    fill_wanted = Signal(object)  # pages that the text of the frame in `linking` is to fill
    stepped = Signal(bool)  # a step was undone (True) or done again
    undoable = Signal(str)  # what was just done, in words, to be undone at once if unwanted

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

    def _look_at(self, publication: Publication) -> None:
        """The first page of a publication, and nothing selected."""
        self.mode: Mode = "pages"
        self.pane: Pane = "desk"
        self.from_flatplan = False  # whether the page on the desk was opened from there
        self.page_id = all_pages(publication)[0].id
        self._position = 1  # of the page on the desk, for when it is deleted
        self.master_id = publication.masters[0].id if publication.masters else ""
        self.holder_id = self.page_id
        self.side: Side = page_facts(publication)[self.page_id].side
        self.items: tuple[str, ...] = ()
        self.guide: GuideAt | None = None
        self.reference: Handle = (-1, -1)  # the one of nine points that Properties go by
        self.align_to: AlignTo = "selection"
        self.zero = (0.0, 0.0)  # of the rulers, from the corner of each page, in points
        self.pages: tuple[str, ...] = ()  # selected; the page on the desk is one of them
        self.section_id = ""  # the section that is selected as such
        self.unlocked: set[tuple[str, str]] = set()
        self.editing: Editing | None = None
        self.lost: Editing | None = None  # the frame that one wrote in, which an edit took away
        self.cropping = False  # whether the selected picture is moved in its frame
        self.tool: Tool = "select"
        self.proof = False
        self.paths = False  # whether the paths of stories are shown
        self.tinted = False  # whether lines are tinted by their spaces
        self.signs = False  # whether characters that print nothing have signs
        self.linking: tuple[str, str] | None = None  # the page and frame whose text is to go on

    def _holds(self, publication: Publication) -> bool:
        """Whether the pages on the desk, and those selected, are there."""
        order = positions(publication)
        return self.page_id in order and all(page in order for page in self.pages)

    def _keep_what_exists(self, publication: Publication) -> None:
        """Drops from the selection what an edit or an undo took away."""
        order, written = positions(publication), self.editing
        self.pages = tuple(p for p in self.pages if p in order)
        if self.page_id not in order:
            pages = all_pages(publication)
            at = min(self._position, len(pages))
            self.page_id = pages[at - 1].id
        sections = {s.id for s in publication.sections}
        if self.section_id in sections:
            section = find_section(publication, self.section_id)
            self.pages = tuple(p.id for p in section.pages)
        else:
            self.section_id = ""
        if self.pages and self.page_id not in self.pages:
            self.page_id = self.pages[0]
        self._position = order[self.page_id]
        masters = masters_by_id(publication)
        if self.master_id not in masters:
            self.master_id = publication.masters[0].id if publication.masters else ""
        if self.mode == "masters" and not self.master_id:
            self.mode = "pages"
        current = self.master_id if self.mode == "masters" else self.page_id
        on_desk = {face.holder_id for face in self.faces()}
        if self.holder_id not in on_desk:
            self.holder_id, self.items, self.editing = current, (), None
        self.side = self.side_of(self.holder_id)
        there = {r.item.id for r in items_on(publication, self.holder_id, self.side)}
        self.items = tuple(i for i in self.items if i in there)
        self.cropping = self.cropping and len(self.items) == 1
        if self.editing is not None and self.editing.item_id not in there:
            self.editing = None
        if self.editing is None and written is not None:
            self.lost = written
        if self.guide is not None:
            owner = self.guide.holder_id
            known = owner in masters or owner in order
            if not known or self.guide.number >= len(own_guides(publication, owner)):
                self.guide = None

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
        if self.mode == "masters" and self.master_id:
            return faces_of_master(self.publication, self.master_id)
        return faces_of_spread(self.publication, self.page_id)

    def side_of(self, holder_id: str) -> Side:
        """The side of a page; of a master, the face that is worked on."""
        if holder_id in masters_by_id(self.publication):
            return self.side if self.publication.setup.facing else "recto"
        return page_facts(self.publication)[holder_id].side

    def show_page(self, page_id: str) -> None:
        """Lays the page's spread on the desk."""
        self.editing, self.cropping = None, False
        self.pane, self.mode = "desk", "pages"
        self.items, self.guide = (), None
        self._lay(page_id)
        self._keep_selected(page_id)
        self.looked.emit()

    def _keep_selected(self, page_id: str) -> None:
        """Pages stay selected only while the one that is worked on is among them."""
        if page_id not in self.pages:
            self.pages, self.section_id = (), ""

    def show_master(self, master_id: str) -> None:
        """Lays a master on the desk."""
        if not master_id:
            return
        self.pane = "board" if self.pane == "board" else "desk"
        self.editing, self.cropping = None, False
        self.mode, self.master_id, self.items, self.guide = "masters", master_id, (), None
        self.holder_id, self.side = master_id, "recto"
        self.looked.emit()

    def show_board(self) -> None:
        """Shows the family of masters in place of the desk."""
        if self.publication.masters:
            self.pane = "board"
            self.show_master(self.master_id)

    def show_flatplan(self) -> None:
        """Shows the whole publication in place of the desk, without selecting a page."""
        if self.mode != "pages":
            self.show_page(self.page_id)
        self.editing, self.cropping, self.items, self.guide = None, False, (), None
        self.proof = False
        self.pane, self.from_flatplan = "flatplan", False
        self.looked.emit()

    def open_from_flatplan(self, page_id: str) -> None:
        """A page on the desk, from which one comes back to the same place."""
        self.show_page(page_id)
        self.from_flatplan = True

    def show_desk(self) -> None:
        """The desk again, with what lay on it."""
        if self.pane != "desk":
            self.pane = "desk"
            self.looked.emit()

    def select_items(self, face: Face | None, items: tuple[str, ...]) -> None:
        """Selects items of a page or face; None keeps the present one."""
        if face is not None:
            self.holder_id, self.side = face.holder_id, face.side
            if self.mode == "pages":
                self.page_id = face.holder_id
                self._position = positions(self.publication)[face.holder_id]
                self._keep_selected(face.holder_id)
        self.cropping = self.cropping and items == self.items
        self.items, self.guide = items, None
        self.looked.emit()

    def select_guide(self, holder_id: str, index: int) -> None:
        """Selects a guide instead of items."""
        self.cropping = False
        self.items, self.guide = (), GuideAt(holder_id, index)
        self.looked.emit()

    def set_reference(self, point: Handle) -> None:
        """The point of the selection that x and y in Properties name."""
        self.reference = point
        self.looked.emit()

    def set_align_to(self, what: AlignTo) -> None:
        """What the selected items are lined up with."""
        self.align_to = what
        self.looked.emit()

    def set_zero(self, x: float, y: float) -> None:
        """Where the rulers count from, on each page."""
        self.zero = (x, y)
        self.looked.emit()

    def select_pages(self, pages: tuple[str, ...], lead: str = "") -> None:
        """Selects pages; the page on the desk is one of them: `lead`, or the one that is there,
        or the first."""
        self.pages, self.section_id = pages, ""
        here = next((p for p in (lead, self.page_id) if p in pages), pages[0] if pages else "")
        if here and self.mode == "pages":
            self._lay(here)
        elif here:
            self.page_id, self._position = here, positions(self.publication)[here]
        self.looked.emit()

    def mark_pages(self, pages: tuple[str, ...]) -> None:
        """Shows pages as selected while they are dragged across; the desk stays as it is."""
        if pages != self.pages:
            self.pages, self.section_id = pages, ""
            self.looked.emit()

    def select_section(self, section_id: str, before: tuple[str, ...] = ()) -> None:
        """Selects a section with all its pages, besides those that are selected `before`."""
        own = [p.id for p in find_section(self.publication, section_id).pages]
        chosen = {*own, *before}
        order = positions(self.publication)
        pages = tuple(p for p in order if p in chosen)
        self.select_pages(pages, own[0] if own else "")
        self.section_id = section_id if len(pages) == len(own) else ""
        self.looked.emit()

    def _lay(self, page_id: str) -> None:
        """The page is the one on the desk; nothing on it is selected."""
        if page_id != self.page_id or self.items or self.guide or self.editing:
            self.editing, self.cropping = None, False
            self.items, self.guide = (), None
        self.page_id = self.holder_id = page_id
        self._position = positions(self.publication)[page_id]
        self.side = self.side_of(page_id)

    def set_tool(self, tool: Tool) -> None:
        self.editing, self.cropping = None, False
        self.pane = "desk"  # one draws there
        self.tool = tool
        self.looked.emit()

    def set_proof(self, proof: bool) -> None:
        self.proof = proof
        self.editing = None
        if proof:
            self.items = ()
        self.looked.emit()

    def edit_text(self, editing: Editing | None) -> None:
        """Starts or ends editing a frame's text."""
        self.seal()
        self.editing = editing
        if editing is not None:
            self.items = (editing.item_id,)
        self.looked.emit()

    def write_in(self, editing: Editing) -> None:
        """Goes on writing in another frame of the same text, on whichever page it stands."""
        if editing == self.editing:
            return
        self.pane, self.mode = "desk", "pages"
        self.editing, self.cropping, self.guide = editing, False, None
        self.items = (editing.item_id,)
        self.page_id = self.holder_id = editing.holder_id
        self._position = positions(self.publication)[editing.holder_id]
        self.side = editing.side
        self._keep_selected(editing.holder_id)
        self.looked.emit()

    def show_paths(self, on: bool) -> None:
        """Shows the paths of stories on the desk, or not."""
        self.paths = on
        self.looked.emit()

    def tint_lines(self, on: bool) -> None:
        """Tints lines on the desk by how far their spaces are from natural, or not."""
        self.tinted = on
        self.looked.emit()

    def show_signs(self, on: bool) -> None:
        """Shows signs on the desk where characters print nothing, or not."""
        self.signs = on
        self.looked.emit()

    def link_from(self, page_id: str, item_id: str) -> None:
        """A frame waits to be linked to the next one that is clicked; "" ends that."""
        self.linking = (page_id, item_id) if item_id else None
        self.looked.emit()

    def crop(self, on: bool) -> None:
        """Starts or ends moving the selected picture in its frame."""
        self.cropping = on
        self.looked.emit()

    def may_change(self, holder_id: str, item_id: str) -> bool:
        """Whether an item is its holder's own, or was unlocked there by an override."""
        return self.may_change_all(holder_id, (item_id,))

    def may_change_all(self, holder_id: str, item_ids: tuple[str, ...]) -> bool:
        """The same for several items at once."""
        side = self.side_of(holder_id)
        return may_change_all(self.publication, holder_id, side, item_ids, self.unlocked)

    def unlock(self, holder_id: str, *item_ids: str) -> None:
        """Lets master items be overridden on this page."""
        self.unlocked.update((holder_id, item_id) for item_id in item_ids)
        self.looked.emit()
