"""Commands on stories: link, take out, part, join, go there, bring in, write out, delete."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QFileDialog, QMenu

from hidden_frame.compose.composition import StoryOnPages
from hidden_frame.desktop.commands.dialogs import Dialogs
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.stories import (
    delete_story,
    link,
    link_main,
    part_story,
    set_grows,
    start_story,
    take_waiting,
    unlink,
)
from hidden_frame.edit.text.sent import as_paragraphs, character_looks
from hidden_frame.interact.hands.anchoring import anchor_waiting
from hidden_frame.interact.hands.copies import PAGES_SHOW, SHOWS, Shows, StoryCopy, copies_showing
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.filling import fillable, filled_pages
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.interact.words.storied import Help, helped, overset_place, waiting_frame
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_story, section_of, stories_on
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Link, MainFrames, Station
from hidden_frame.storage.manuscripts import KINDS


class StoryActions:
    """Each method is one command on the story of the selected or edited frame, or on one named."""

    def __init__(self, session: Session, desk: Desk, dialogs: Dialogs) -> None:
        self.session, self.desk, self.dialogs = session, desk, dialogs
        desk.out_mark_pressed.connect(self.start_link)
        desk.link_wanted.connect(self.finish_link)
        session.copied.connect(self.ask_about_copies)
        session.fill_wanted.connect(self.fill)

    # -- what is meant -----------------------------------------------------------------

    def frame(self) -> str:
        """The id of the one selected text frame on a page; "" without one."""
        return self._text_frame() if self.session.mode == "pages" else ""

    def _text_frame(self) -> str:
        """The id of the one selected text frame on a page or master; "" without one."""
        session = self.session
        if len(session.items) != 1:
            return ""
        item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
        return item.id if isinstance(item, TextFrame) else ""

    def told(self) -> StoryOnPages | None:
        """The story of the selected frame."""
        frame = self.frame()
        return self.session.composition.told(self.session.holder_id, frame) if frame else None

    def story_here(self) -> str:
        """The id of the story of the selected frame, or else of the page on the desk, or the only
        one there is; "" for none."""
        told, publication = self.told(), self.session.publication
        if told is not None:
            return told.story.id
        if not publication.stories:
            return ""
        page = self.session.page_id
        here = stories_on(publication, page) if self.session.mode == "pages" else ()
        several = [s for s in (here or publication.stories) if not s.lists]
        return several[0].id if (here and several) or len(several) == 1 else ""

    def can_link(self) -> bool:
        return bool(self._text_frame())

    def in_story(self) -> bool:
        return self.told() is not None

    def linked(self) -> bool:
        """Whether the selected frame was linked by hand."""
        told = self.told()
        station = Link(self.session.holder_id, self.frame())
        return told is not None and station in told.story.path

    def can_part(self) -> bool:
        return self.session.editing is not None and self.linked()

    # -- linking -------------------------------------------------------------------------

    def start_link(self) -> None:
        """The next click on a frame goes on with the text of the selected one; one that is drawn
        now does too."""
        frame = self._text_frame()
        if not frame:
            return
        self.session.edit_text(None)
        self.session.link_from(self.session.holder_id, frame)
        if self.session.mode == "masters":
            self.session.noticed.emit(
                "Click the frame of this master in which the section’s story continues, or "
                "draw one; Escape cancels."
            )
            return
        self.session.noticed.emit(
            "Click the frame in which the text continues, draw one, or drag across empty pages "
            "in the Run or the flatplan; Escape cancels."
        )

    def finish_link(self, face: Face, item_id: str) -> None:
        """The text of the frame that was begun with goes on in this one."""
        begun = self.session.linking
        self.session.link_from("", "")
        if begun is None:
            return
        page, item = begun
        if self.session.mode == "masters":
            name = "link main frames"
            if self.session.edit(name, lambda p: link_main(p, page, item, item_id)):
                self.session.select_items(face, (item_id,))
            return

        def change(publication: Publication) -> Publication:
            publication, story, after = self._begun(publication, page, item)
            return link(publication, story, face.holder_id, item_id, after)

        if self.session.edit("link frames", change):
            self.session.select_items(face, (item_id,))

    def fill(self, pages: tuple[str, ...]) -> None:
        """The text of the frame that was begun with goes on in frames on these empty pages."""
        session, begun = self.session, self.session.linking
        session.link_from("", "")
        if begun is None:
            return
        found = fillable(session.composition, pages)
        count = len(found.empty)

        def change(publication: Publication) -> Publication:
            publication, story, after = self._begun(publication, *begun)
            assert after is not None
            return filled_pages(publication, story, after, found.empty)

        session.edit(plural(count, "fill {n} page", "fill {n} pages"), change)
        session.show_page(begun[0])

    def _begun(
        self, publication: Publication, page: str, item: str
    ) -> tuple[Publication, str, Station | None]:
        """The story of the frame that was begun with, started if need be, and its station."""
        known = self.session.composition.told(page, item)
        if known is not None:
            return publication, known.story.id, self._station(known, page, item)
        publication, story = start_story(publication, page, item)
        return publication, story, Link(page, item)

    def _station(self, told: StoryOnPages, page: str, item: str) -> Station | None:
        station: Station = Link(page, item)
        if station in told.story.path:
            return station
        section = section_of(self.session.publication, page).id
        return MainFrames(section)

    def take_out(self) -> None:
        """The selected frame out of its story, whose text goes on to the next one."""
        told, session = self.told(), self.session
        if told is None:
            return
        station: Station = Link(session.holder_id, self.frame())
        if station not in told.story.path:
            session.noticed.emit(
                "This is a main frame: its section's story flows through it. Hide it here, or take "
                "the section out of the story on the Shelf."
            )
            return
        session.edit_text(None)
        session.edit("take a frame out of its story", lambda p: unlink(p, station))

    def part_here(self) -> None:
        """What follows the caret becomes a story of its own, from the frame that one writes in."""
        told, session = self.told(), self.session
        if told is None:
            return
        station, place = Link(session.holder_id, self.frame()), self.desk.text.caret
        session.edit_text(None)
        session.edit("part a story", lambda p: part_story(p, told.story.id, place, station)[0])

    def toggle_paths(self) -> None:
        """The paths of stories on the desk, or not."""
        self.session.show_paths(not self.session.paths)

    def ask_about_copies(self, copies: list[StoryCopy]) -> None:
        """At the pointer: what copies of frames that show a story are to show."""
        menu = QMenu(self.desk)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        asks = "The copy is to show" if len(copies) == 1 else "The copies are to show"
        if copies[0].of_page:
            one = len({copy.page for copy in copies}) == 1
            asks = "The new page is to show" if one else "The new pages are to show"
        menu.addAction(asks).setEnabled(False)
        menu.addSeparator()
        for title, shows in PAGES_SHOW if copies[0].of_page else SHOWS:
            menu.addAction(title, lambda shows=shows: self._copies_show(copies, shows))
        self.asking = menu
        menu.popup(QCursor.pos())

    def _copies_show(self, copies: list[StoryCopy], shows: Shows) -> None:
        done = "linked" if copies[0].of_page else "empty"  # that is what they do already
        if shows != done:
            name = {
                "same": "the same words again",
                "linked": "link copies",
                "empty": "empty frames",
            }[shows]
            self.session.edit(name, lambda p: copies_showing(p, copies, shows))

    # -- a story by its id -----------------------------------------------------------------

    def go_to(self, story_id: str, end: bool = False) -> None:
        """The caret at a story's beginning, or where it stops."""
        flow = self.session.composition.flow(story_id)
        place = overset_place(flow) if end else (0, 0)
        if place is None:
            text = find_story(self.session.publication, story_id).text
            place = (len(text) - 1, 10**9)
        if not self.desk.text.write_at(story_id, place):
            self.session.noticed.emit("No frame shows this story yet; link one, or let it flow.")
        self.desk.setFocus()

    def help(self, story_id: str, kind: Help) -> None:
        """Takes an offer for a story that does not fit."""
        if kind == "jump":
            self.go_to(story_id, end=True)
            return
        names = {
            "grow": "let a story grow", "pages": "add pages", "flow": "flow on",
            "enlarge": "enlarge a frame", "tighten": "tighten a story",
        }  # fmt: skip
        section = section_of(self.session.publication, self.session.page_id).id
        self.session.edit(names[kind], lambda p: helped(p, story_id, kind, section))

    def set_grows(self, story_id: str, grows: bool) -> None:
        name = "let a story grow" if grows else "let a story grow no more"
        self.session.edit(name, lambda p: set_grows(p, story_id, grows))

    def delete(self, story_id: str) -> None:
        """A story with its words; the notice takes it back."""
        story = find_story(self.session.publication, story_id)
        self.session.edit_text(None)
        if self.session.edit(f"delete the story {story.name}", lambda p: delete_story(p, story_id)):
            self.session.undoable.emit(f"Deleted “{story.name}” and its text; its frames stay.")

    def place_waiting(self, story_id: str) -> None:
        """The next picture of a story's tray, on the page where the story speaks of it."""
        session = self.session
        story = find_story(session.publication, story_id)
        if not story.waiting:
            return
        one = story.waiting[0]
        at = session.composition.flow(story_id).stop_of(one.paragraph, 0)
        stops = session.composition.flow(story_id).stops
        page = stops[at].page_id if at is not None else session.page_id
        session.show_page(page)
        face = next(f for f in session.faces() if f.holder_id == page)
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication = take_waiting(publication, story_id, one.picture)
            frame = waiting_frame(publication, page, one.picture)
            publication, item = add_item(publication, page, frame)
            made.append(item)
            return publication

        if session.edit("place a picture of the tray", change):
            session.select_items(face, (made[0],))

    def anchor_waiting(self, story_id: str) -> None:
        """All pictures of a story's tray, each in the text where it stood."""
        session = self.session
        many = len(find_story(session.publication, story_id).waiting)
        flow = session.composition.flow(story_id)
        region = flow.stops[0].room.regions[0] if flow.stops else None
        room = (region.measure, region.height) if region is not None else (200.0, 400.0)
        if session.edit("anchor the tray's pictures", lambda p: anchor_waiting(p, story_id, *room)):
            session.noticed.emit(
                plural(many, "{n} picture now moves with the text.",
                       "{n} pictures now move with the text.")
            )  # fmt: skip

    # -- in and out ------------------------------------------------------------------------

    def bring_in(self, path: Path | None = None, section_id: str = "") -> None:
        """A manuscript, chosen from the disk, into the section of the page on the desk."""
        if path is None:
            kinds = " ".join(f"*.{k}" for k in KINDS)
            name, _ = QFileDialog.getOpenFileName(
                self.desk.window(), "Import a manuscript", "", f"Manuscripts ({kinds})"
            )
            if not name:
                return
            path = Path(name)
        self.dialogs.manuscript(path, section_id)

    def write_out(self, story_id: str = "") -> None:
        """A story as a file that its author can correct."""
        from hidden_frame.storage.manuscripts.write import written  # needed late

        story_id = story_id or self.story_here()
        if not story_id:
            return
        story = find_story(self.session.publication, story_id)
        kinds = (
            "Office document (*.docx);;Open document (*.odt);;Web page (*.html);;Markdown (*.md);;"
            "Plain text (*.txt)"
        )
        name, chosen = QFileDialog.getSaveFileName(
            self.desk.window(), "Export a story", f"{story.name}.docx", kinds
        )
        if not name:
            return
        path = Path(name)
        if not path.suffix:
            path = path.with_suffix("." + chosen.rpartition(".")[2].rstrip(")"))
        try:
            publication = self.session.publication
            paragraphs = as_paragraphs(publication, story.text, self.session.blobs)
            kind, looks = path.suffix.lower().lstrip("."), character_looks(publication)
            path.write_bytes(written(paragraphs, kind, story.name, looks))
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
        except OSError as error:
            self.session.noticed.emit(f"“{path.name}” can't be written: {error.strerror or error}.")
        else:
            self.session.noticed.emit(f"Exported “{story.name}” to {path.name}.")
