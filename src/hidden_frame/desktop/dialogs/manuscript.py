"""A manuscript brought in: what its styles become, where it goes, and what came."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QCheckBox, QProgressDialog, QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought, matched, pictures_kept
from hidden_frame.edit.text.dressed import AS_THERE
from hidden_frame.interact.hands.main_frames import has_main_frame, main_master, with_main_frame
from hidden_frame.interact.words.storied import state
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import find_master, find_story, section_of
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Anchor
from hidden_frame.storage.manuscripts.manuscript import Manuscript, report_in_words
from hidden_frame.storage.manuscripts.read import read

NEW = "a new style of this name"
_PATIENCE = 0.4  # seconds before a progress window opens
_ENCODINGS = (
    ("Unicode (UTF-8)", "utf-8"), ("Unicode (UTF-16)", "utf-16"), ("Western (cp1252)", "cp1252"),
    ("Central European (cp1250)", "cp1250"), ("Cyrillic (cp1251)", "cp1251"),
    ("Cyrillic (KOI8-R)", "koi8_r"), ("Greek (cp1253)", "cp1253"), ("Turkish (cp1254)", "cp1254"),
    ("Hebrew (cp1255)", "cp1255"), ("Arabic (cp1256)", "cp1256"), ("Baltic (cp1257)", "cp1257"),
    ("Japanese (Shift JIS)", "shift_jis"), ("Chinese (GB 18030)", "gb18030"),
    ("Chinese (Big5)", "big5"), ("Korean (EUC-KR)", "euc_kr"),
)  # fmt: skip
MOST = 12  # styles that are asked for; the rest are matched by name


class ManuscriptDialog(EditQuestion):
    """Each style of the source is matched to one here by name, or chosen once; what was chosen is
    remembered for the next manuscript."""

    def __init__(
        self,
        session: Session,
        manuscript: Manuscript,
        section_id: str = "",
        parent: QWidget | None = None,
        path: Path | None = None,
    ) -> None:
        super().__init__(session, parent, "Import a manuscript", "Import")
        self.manuscript, self.path = manuscript, path
        self.left = 0
        self.story, self.first = "", 0
        self.form.note(f"“{manuscript.name}”: {report_in_words(manuscript)}")
        self.encoding = Choice("Encoding")
        if manuscript.encoding and path is not None:
            self._offer_encodings()
        self.section = Choice("Into the section")
        here = section_id or section_of(session.publication, session.page_id).id
        sections = session.publication.sections
        options = [(s.name or f"Section {n}", s.id) for n, s in enumerate(sections, 1)]
        self.section.show_choice(options, here)
        self.form.row("Into the section", self.section)
        self.main = QCheckBox()
        self.main.setChecked(True)
        self.form.column.addWidget(self.main)
        self.section.committed.connect(lambda _: self._offer_main_frame())
        self._offer_main_frame()
        self.notes = Choice("Notes")
        if manuscript.at_end:
            self.notes.show_choice([("numbered by the program", True), ("at the end", False)], True)
            self.notes.setToolTip("Text > List of notes on this page prints them")
            self.form.row("Notes", self.notes)
        self.pictures = Choice("Pictures")
        if manuscript.pictures:
            places: list[tuple[str, object]] = [
                ("in the text, where they were", True),
                ("in the story’s tray, to be placed by hand", False),
            ]
            self.pictures.show_choice(places, True)
            self.form.row("Pictures", self.pictures)
        self.choices: dict[str, Choice] = {}
        found = matched(session.publication, manuscript.styles) | self._remembered()
        styles = [(s.name, s.id) for s in session.publication.paragraph_styles]
        if manuscript.styles:
            self.form.heading("STYLES")
        for name in manuscript.styles[:MOST]:
            choice = Choice(name)
            made: list[tuple[str, object]] = [(NEW, "")]
            look = manuscript.looks.get(name)
            if look is not None and look.in_words():
                made.append((f"a new style as in the manuscript: {look.in_words()}", AS_THERE))
            choice.show_choice([*made, *styles], found[name])
            self.form.row(name, choice)
            self.choices[name] = choice
        if len(manuscript.styles) > MOST:
            more = len(manuscript.styles) - MOST
            self.form.note(f"{more} more styles are matched by name or created.")
        self.finish()

    def _offer_main_frame(self) -> None:
        """A main frame, where the masters of the section have none: the text would not be seen."""
        publication, section = self.session.publication, str(self.section.value())
        master = main_master(publication, section)
        self.main.setVisible(bool(master) and not has_main_frame(publication, section))
        if master:
            name = find_master(publication, master).name
            self.main.setText(f"Make a main frame on {name}, within the margins")

    def _offer_encodings(self) -> None:
        """The likely encoding of a plain text, others, and what the text begins with in it."""
        likely = self.manuscript.encoding
        known = [(label, code) for label, code in _ENCODINGS if code != likely]
        label = next((label for label, code in _ENCODINGS if code == likely), likely)
        self.encodings = [(f"{label}, the likely one", likely), *known]
        self.encoding.show_choice(self.encodings, likely)
        self.form.row("Encoding", self.encoding)
        self.beginning = self.form.note(_beginning(self.manuscript))
        self.encoding.committed.connect(self._read_again)

    def _read_again(self, encoding: object) -> None:
        """The same bytes in another encoding; one in which they are no text is not taken."""
        assert self.path is not None
        try:
            self.manuscript = read(self.path, str(encoding))
        except Refusal as refusal:
            self.encoding.show_choice(self.encodings, self.manuscript.encoding)
            self.form.say(refusal)
        else:
            self.form.say("")
            self.beginning.setText(_beginning(self.manuscript))

    def _remembered(self) -> dict[str, str]:
        """What was chosen for these names before, where that style is here."""
        known = {s.name: s.id for s in self.session.publication.paragraph_styles}
        chosen = dict(settings().now.manuscript_styles)
        return {n: known[chosen[n]] for n in self.manuscript.styles if chosen.get(n) in known}

    def answer(self) -> None:
        source = self.manuscript
        live = not source.at_end or self.notes.value()
        source = source.with_live_notes() if live else source.with_notes_at_end()
        if not self._in_place():
            source = source.with_pictures_in_tray()
        matches = {name: str(choice.value() or "") for name, choice in self.choices.items()}
        section = str(self.section.value())
        names = {s.id: s.name for s in self.session.publication.paragraph_styles}
        kept = dict(settings().now.manuscript_styles)
        kept |= {name: names[chosen] for name, chosen in matches.items() if chosen in names}
        settings().change(manuscript_styles=tuple(sorted(kept.items()))[-200:])

        def change(publication: Publication) -> Publication:
            if self.main.isChecked() and not has_main_frame(publication, section):
                publication = with_main_frame(publication, section)
            blobs: dict[str, bytes] = {}
            publication, text = brought(publication, source, matches, blobs)
            self.session.blobs.update(blobs)
            publication, story = pour(publication, section, text, self.manuscript.name)
            self.story = story
            first = self.first = len(find_story(publication, story).text) - len(text)
            if self._in_place():
                self.left = len(source.pictures) - sum(isinstance(c, Anchor) for p in text
                                                       for c in p.content)  # fmt: skip
                return publication
            kept = pictures_kept(publication, story, self.manuscript, first)
            self.session.blobs.update(kept.blobs)
            self.left = kept.left
            return kept.publication

        self.edit("bring in a manuscript", change)
        self._show_beginning()
        session = self.session
        session.once_settled(lambda: session.noticed.emit(self._report()))

    def _in_place(self) -> bool:
        """Whether pictures stand in the text, and not in the tray."""
        return bool(self.manuscript.pictures) and bool(self.pictures.value())

    def _show_beginning(self) -> None:
        """The page on which the text begins that was brought in."""
        flow = self.session.composition.flow(self.story)
        at = flow.stop_of(self.first, 0)
        if at is not None:
            self.session.show_page(flow.stops[at].page_id)

    def _report(self) -> str:
        """What came and what did not; where the pictures are."""
        words = report_in_words(self.manuscript)
        if self.manuscript.pictures and not self._in_place():
            words += " Pictures wait in the story’s tray on the Shelf."
        if self.left:
            words += f" {self.left} of them are of a kind that can’t be placed."
        now = state(self.session.composition, self.story)
        return words if now.fits else f"{words} {now.sentence}"


def _beginning(manuscript: Manuscript) -> str:
    """Its first words that tell one encoding from another, if any."""
    lines = [p.text for p in manuscript.paragraphs]
    at, line = next(
        ((n, line) for line in lines for n, c in enumerate(line) if ord(c) > 127), (0, "")
    )
    line = line or next(iter(lines), "")
    words = line[max(at - 24, 0) : at + 40].replace("\t", " ")
    return f"It reads “{words}”."


def read_with_patience(path: Path, encoding: str, parent: QWidget | None) -> Manuscript | None:
    """Reads a manuscript, under a progress window if it takes long; None if that was cancelled."""
    pool = ThreadPoolExecutor(1, "manuscript")
    reading = pool.submit(read, path, encoding)
    pool.shutdown(wait=False)
    with suppress(TimeoutError):
        return reading.result(timeout=_PATIENCE)
    window = QProgressDialog(f"Reading “{path.name}”…", "Cancel", 0, 0, parent)
    window.setWindowTitle("Import a manuscript")
    window.setWindowModality(Qt.WindowModality.WindowModal)
    window.show()
    try:
        while not window.wasCanceled():
            QApplication.processEvents()
            with suppress(TimeoutError):
                return reading.result(timeout=0.02)
        return None
    finally:
        window.close()
        window.deleteLater()
