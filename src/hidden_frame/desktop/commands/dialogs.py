"""The dialogs of a window.  Each is loaded when it is first asked for: together they would take a
sixth of the time until the window is up."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt

from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.text.listing import note_style, set_list
from hidden_frame.interact.finds.indexing import terms
from hidden_frame.interact.finds.listing import ListPlace, place_for_list
from hidden_frame.interact.hands.likely import likely_heading
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_style
from hidden_frame.model.text import Contents, Index, NoteList, TextPlace
from hidden_frame.typeset.fonts import FontFace, font_book

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from hidden_frame.desktop.dialogs.characters import CharacterFinder
    from hidden_frame.desktop.dialogs.contents import ContentsDialog
    from hidden_frame.desktop.dialogs.find_text import FindTextDialog
    from hidden_frame.desktop.dialogs.folios import FoliosDialog
    from hidden_frame.desktop.dialogs.guide import GuideWindow
    from hidden_frame.desktop.dialogs.index import IndexPanel
    from hidden_frame.desktop.dialogs.overrides import OverridesDialog
    from hidden_frame.desktop.dialogs.pairing import PairingDialog
    from hidden_frame.desktop.dialogs.rules import RulesDialog
    from hidden_frame.desktop.dialogs.size import SizeDialog
    from hidden_frame.desktop.dialogs.spelling import SpellingPanel
    from hidden_frame.desktop.panels.properties.panel import Properties
    from hidden_frame.storage.format import Opened
    from hidden_frame.storage.recovery import Left


class Dialogs(QObject):
    """Opens each over its window; `commands` and `properties` are set once
    there are some."""

    commands: Commands
    properties: Properties

    def __init__(self, session: Session, desk: Desk, window: QWidget) -> None:
        super().__init__(window)
        self.session, self.desk, self.window = session, desk, window
        self.show_beside: Callable[[Publication, Mapping[str, bytes], str], object] = lambda *_: (
            None
        )
        self.recover: Callable[[Left], object] = lambda _: None
        self.go_on: Callable[[Left, Opened], object] = lambda *_: None
        self._guide: GuideWindow | None = None
        self._index: IndexPanel | None = None
        self._spelling: SpellingPanel | None = None
        self._characters: CharacterFinder | None = None

    def about(self) -> None:
        """What the publication says of itself."""
        from hidden_frame.desktop.dialogs.about import AboutDialog

        AboutDialog(self.session, self.window).exec()

    def replace_font(self) -> None:
        """One family for another, everywhere; a missing one first."""
        from hidden_frame.desktop.dialogs.fonts import ReplaceFontDialog

        ReplaceFontDialog(self.session, "", self.window).exec()

    def styles(self) -> None:
        """The paragraph style of the selected frame or edited paragraph, or the first one."""
        from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog

        session = self.session
        style = self.desk.text.dress.paragraph_style() if session.editing is not None else None
        if style is None and len(session.items) == 1:
            item = shown_item(
                session.publication, session.holder_id, session.items[0], session.side
            )
            style = item.text[0].style if isinstance(item, TextFrame) and item.text else None
        StyleDialog(session, style, self.window).exec()

    def character_styles(self) -> None:
        """The character style at the caret, or the first one."""
        from hidden_frame.desktop.dialogs.styles.character import CharacterDialog

        named = (
            self.desk.text.dress.now()["character"] if self.session.editing is not None else None
        )
        CharacterDialog(self.session, named, self.window).exec()

    def style(self, style_id: str) -> None:
        """The form of one style."""
        from hidden_frame.desktop.dialogs.styles.character import CharacterDialog
        from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog

        characters = {s.id for s in self.session.publication.character_styles}
        form = CharacterDialog if style_id in characters else StyleDialog
        form(self.session, style_id, self.window).exec()

    def settings(self) -> None:
        from hidden_frame.desktop.dialogs.desk_settings import DeskSettings

        DeskSettings(self.session, self.window).exec()

    def left_behind(self) -> None:
        """Work that was not closed normally."""
        from hidden_frame.desktop.dialogs.left import LeftDialog

        LeftDialog(self.recover, self.window).exec()

    def report(self) -> None:
        """What can be told to others of faults."""
        from hidden_frame.desktop.dialogs.report import ReportDialog

        ReportDialog(self.window).exec()

    def compare_left(self, left: Left) -> None:
        """What work that was left behind differs in from the file that is open."""
        from hidden_frame.desktop.dialogs.left_compared import LeftCompared
        from hidden_frame.storage.recovery import recovered

        try:
            opened = recovered(left)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        dialog = LeftCompared(self.session, opened, lambda: self.go_on(left, opened), self.window)
        dialog.exec()
        dialog.deleteLater()  # with the publication that it shows

    def versions(self) -> None:
        """What earlier saves of this file held."""
        from hidden_frame.desktop.dialogs.versions import VersionsDialog

        if self.session.path is None:
            self.session.noticed.emit("There are no versions yet; each save keeps one. Save first.")
            return
        dialog = VersionsDialog(self.session, self.session.path, self.show_beside, self.window)
        dialog.exec()
        dialog.deleteLater()  # with the version that it shows

    def rename_master(self, master_id: str) -> None:
        """Asks for another name."""
        from hidden_frame.desktop.dialogs.masters import RenameMasterDialog

        RenameMasterDialog(self.session, master_id, self.window).exec()

    def overrides(self) -> OverridesDialog:
        from hidden_frame.desktop.dialogs.overrides import OverridesDialog

        dialog = OverridesDialog(self.session, self.window)
        dialog.show()
        return dialog

    def pairing(self) -> PairingDialog:
        from hidden_frame.desktop.dialogs.pairing import PairingDialog

        dialog = PairingDialog(self.session, self.window)
        dialog.open()
        return dialog

    def guides(self) -> None:
        from hidden_frame.desktop.dialogs.guides import GuidesDialog

        GuidesDialog(self.session, self.window).exec()

    def goto(self) -> None:
        from hidden_frame.desktop.dialogs.goto import GoToDialog

        GoToDialog(self.session, self.window).exec()

    def folios(self) -> FoliosDialog:
        from hidden_frame.desktop.dialogs.folios import FoliosDialog

        dialog = FoliosDialog(self.session, self.desk, self.window)
        dialog.open()
        return dialog

    def rules(self) -> RulesDialog:
        from hidden_frame.desktop.dialogs.rules import RulesDialog

        dialog = RulesDialog(self.session, self.window)
        dialog.open()
        return dialog

    def size(self, trim: Size | None = None) -> SizeDialog:
        """Another page size, tried on the desk; begun with one that was typed elsewhere."""
        from hidden_frame.desktop.dialogs.size import SizeDialog

        dialog = SizeDialog(self.session, self.window, trim)
        dialog.open()
        return dialog

    def contents(self) -> ContentsDialog | None:
        """A contents list in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.contents import ContentsDialog

        session = self.session
        page, frame = session.page_id, self._place_for_list()
        if frame is None:
            return None
        contents = frame.now if isinstance(frame.now, Contents) else None
        dialog = ContentsDialog(session, self.window, page, frame, contents)
        session.select_items(None, (frame.item,))
        dialog.open()
        return dialog

    def running_head(self) -> None:
        """A running head put in at the caret, or the one that is selected there changed."""
        from hidden_frame.desktop.dialogs.running_head import RunningHeadDialog

        marker = self.desk.text.marker()
        head = marker.head if marker is not None else None
        put = self.desk.text.insert_marker
        RunningHeadDialog(self.session, self.window, put, head).exec()
        self.desk.setFocus()

    def characters(self) -> CharacterFinder:
        """The finder of characters; it stays while one writes."""
        from hidden_frame.desktop.dialogs.characters import CharacterFinder

        if self._characters is None:
            self._characters = CharacterFinder(self.window, self._face, self._put_character)
        self._characters.show()
        self._characters.raise_()
        self._characters.refresh()
        return self._characters

    def _face(self) -> FontFace:
        """The font at the caret, or that of the first style."""
        if self.session.editing is not None and self.desk.text.text:
            now = self.desk.text.dress.now()
        else:
            styles = self.session.publication.paragraph_styles
            style = computed_style(styles, styles[0].id)
            now = {"family": style.family, "bold": style.bold, "italic": style.italic}
        return font_book().face(now["family"], bool(now["bold"]), bool(now["italic"]))

    def _put_character(self, character: str, form: str) -> None:
        if self.session.editing is None:
            self.session.noticed.emit("No text is being edited; double-click one first.")
            return
        self.desk.text.insert_form(character, form)

    def refer(self) -> None:
        """A reference put in at the caret."""
        from hidden_frame.desktop.dialogs.refer import ReferDialog

        ReferDialog(self.session, self.window, self.desk.text.places.refer).exec()
        self.desk.setFocus()

    def note(self) -> None:
        """A note at the caret, or the one there changed."""
        from hidden_frame.desktop.dialogs.note import NoteDialog

        places = self.desk.text.places
        now = places.note()
        words = None if now is None else "".join(run.text for run in now.content)
        NoteDialog(self.window, words, places.put_note).exec()
        self.desk.setFocus()

    def list_here(self) -> None:
        """The list that the selected frame shows, to be changed."""
        frame = self._place_for_list()
        if frame is None:
            return
        if isinstance(frame.now, Index):
            self.put_index()
        elif isinstance(frame.now, NoteList):
            self.put_notes()
        else:
            self.contents()

    def put_notes(self) -> None:
        """All notes in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.lists import NoteListDialog

        frame = self._place_for_list("List of notes")
        if frame is None:
            return
        now, publication = frame.now, self.session.history.now
        if isinstance(now, NoteList):
            put = partial(self._put_list, "list of notes", frame)
            NoteListDialog(self.window, publication, now, "Apply", put).exec()
            return
        made, style = note_style(frame.made or publication, publication.paragraph_styles[0].id)
        self._put_list("list of notes", frame._replace(made=made), NoteList(shown=style))

    def put_index(self) -> None:
        """The index in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.lists import IndexListDialog

        frame = self._place_for_list("Index")
        if frame is None:
            return
        now, publication = frame.now, self.session.history.now
        if not isinstance(now, Index):
            body = publication.paragraph_styles[0].id
            now = Index(shown=body, letters=likely_heading(publication))
        put = partial(self._put_list, "the index", frame)
        action = "Apply" if frame.now == now else "Put it there"
        IndexListDialog(self.window, publication, now, action, put).exec()

    def _place_for_list(self, name: str = "Contents") -> ListPlace | None:
        """The selected frame, or a new one on the page on the desk; told if there can be none."""
        session = self.session
        session.edit_text(None)
        page = session.page_id if session.mode == "pages" else ""
        found = place_for_list(session.composition, page, session.items, name)
        if isinstance(found, str):
            session.noticed.emit(found)
            return None
        return found

    def _put_list(self, label: str, frame: ListPlace, listed: Index | NoteList) -> None:
        page = self.session.page_id

        def change(publication: Publication) -> Publication:
            made = frame.made if frame.made is not None else publication
            return set_list(made, page, frame.item, listed)

        if self.session.edit(label, change):
            self.session.select_items(None, (frame.item,))

    def index_mark(self) -> None:
        """A mark for the index at the caret."""
        from hidden_frame.desktop.dialogs.index import MarkDialog

        places, known = self.desk.text.places, terms(self.session.composition)
        names = list(dict.fromkeys(t.term for t in known))
        MarkDialog(self.window, places.words(), names, places.mark).exec()
        self.desk.setFocus()

    def index_panel(self) -> IndexPanel:
        """The panel of all terms; it stays while one works."""
        from hidden_frame.desktop.dialogs.index import IndexPanel

        if self._index is None:
            self._index = IndexPanel(self.session, self.window, self._show_mark, self.put_index)
        self._index.show()
        self._index.raise_()
        self._index.refresh(True)
        return self._index

    def spelling(self) -> SpellingPanel:
        """The list of doubtful words; it stays while one works."""
        from hidden_frame.desktop.dialogs.spelling import SpellingPanel

        if self._spelling is None:
            self._spelling = SpellingPanel(self.session, self.desk, self.window)
        self._spelling.show()
        self._spelling.raise_()
        self._spelling.refresh()
        return self._spelling

    def _show_mark(self, story: str, place: TextPlace) -> bool:
        behind = place[0], place[1] + 1
        self.session.edit_text(None)
        return self.desk.text.write_at(story, behind, place)

    def name_place(self) -> None:
        from hidden_frame.desktop.dialogs.refer import PlaceDialog

        places = self.desk.text.places
        PlaceDialog(self.window, places.name_now(), places.name).exec()
        self.desk.setFocus()

    def date(self) -> None:
        from hidden_frame.desktop.dialogs.running_head import DateDialog

        DateDialog(self.session, self.window, self.desk.text.insert_marker).exec()
        self.desk.setFocus()

    def finder(self) -> None:
        from hidden_frame.desktop.find.finder import Finder
        from hidden_frame.desktop.find.places import Fields

        fields = Fields(self.session, self.commands, self.properties)
        found = (self.style, self.guide)
        Finder(self.session, self.commands, fields, self.window, *found).exec()

    def guide(self, topic: str = "") -> GuideWindow:
        """The guide beside the window, at a page of that title."""
        from hidden_frame.desktop.dialogs.guide import GuideWindow

        if self._guide is None:
            self._guide = GuideWindow(self.commands, self.window)
        found = self._guide.list.findItems(topic, Qt.MatchFlag.MatchExactly)
        if found:
            self._guide.list.setCurrentItem(found[0])
        self._guide.show()
        self._guide.raise_()
        return self._guide

    def about_program(self) -> None:
        from hidden_frame.desktop.dialogs.guide import AboutProgram

        AboutProgram(self.window).exec()

    def manuscript(self, path: Path, section_id: str = "") -> None:
        """Reads a manuscript and asks what its styles become."""
        from hidden_frame.desktop.dialogs.manuscript import ManuscriptDialog, read_with_patience

        try:
            found = read_with_patience(path, "", self.window)
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return
        if found is None:
            self.session.noticed.emit(f"“{path.name}” was not imported.")
            return
        ManuscriptDialog(self.session, found, section_id, self.window, path).exec()

    def find_text(self) -> FindTextDialog:
        """Find and replace, beside the desk."""
        from hidden_frame.desktop.dialogs.find_text import FindTextDialog

        dialog = FindTextDialog(self.session, self.desk, self.window)
        dialog.show()
        return dialog
