"""New, open, save, export: the session's way to the disk and back."""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, Qt
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QProgressDialog, QWidget

from hidden_frame.checks.finding import KnownFindings
from hidden_frame.desktop.files.arrivals import kept_at, tell
from hidden_frame.desktop.files.other_hands import path_to_keep
from hidden_frame.desktop.files.saving import Saver
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.mishaps import in_words, write_down
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, positions
from hidden_frame.model.publication import Publication
from hidden_frame.storage.files import sweep
from hidden_frame.storage.format import EXTENSION, load
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.stamps import stamp_of

_SHOWN = 0.04  # seconds from one look at a progress window to the next
_FILTER = f"Publications (*{EXTENSION})"


class Files:
    """Asks where needed; says in one sentence what went wrong and changes nothing then."""

    def __init__(
        self,
        session: Session,
        thumbnails: Thumbnails,
        parent: QWidget,
        opener: Callable[[Publication, Mapping[str, bytes], Path | None], object] | None = None,
    ) -> None:
        self.session = session
        self.thumbnails = thumbnails
        self.parent = parent
        self.opener = opener
        # What checks find, told at export.
        self.found: Callable[[float], KnownFindings] = lambda _: KnownFindings((), True)
        self.opened_here: Callable[[], object] = lambda: None  # another file, in this window
        self.saver = Saver(session, self.preview, parent)
        # What goes in favour of another's: kept as a version.
        self.give_up: Callable[[Path, Publication, int, Mapping[str, bytes]], None] = lambda *_: (
            None
        )

    def _show(
        self, publication: Publication, blobs: Mapping[str, bytes], path: Path | None
    ) -> Session:
        """Opens a publication in a window of its own; here, if nothing was done here yet."""
        history = self.session.history
        untouched = self.session.path is None and not (history.past or history.future)
        untouched = untouched and not self.session.recovered
        if self.opener is None or untouched:
            if not self.may_leave():
                return self.session
            self.session.replace_all(publication, blobs, path_to_keep(path, self.parent))
            self.opened_here()
            return self.session
        window = self.opener(publication, blobs, path)
        return getattr(window, "session", self.session)

    def recent(self) -> list[tuple[str, Callable[[], object], bool]]:
        """The publications that were opened last, as rows of a menu: those that are still there."""
        here = str(self.session.path or "")
        paths = [Path(name) for name in settings().now.recent if name != here]
        return [
            (path.name, partial(self.open_path, path), False) for path in paths if path.exists()
        ]

    def can_revert(self) -> bool:
        """Whether it was saved once, and is not as it was then."""
        return self.session.saved is not None and self.session.modified

    def revert(self) -> None:
        """What was saved last instead of what there is: one step, which undo takes back."""
        saved = self.session.saved
        if saved is not None:
            self.session.edit("go back to what was saved", lambda _: saved)
            self.session.undoable.emit("This is already the saved version.")

    def show_new(
        self, publication: Publication, blobs: Mapping[str, bytes], called: str = ""
    ) -> None:
        """A publication that was made here and is not saved yet, in a window of its own, whose
        title says what it is `called`."""
        if self.opener is not None:
            window = self.opener(publication, blobs, None)
            if called:
                window.session.called = called  # type: ignore[attr-defined]
                window.session.looked.emit()  # type: ignore[attr-defined]
        elif self.may_leave():
            self.session.replace_all(publication, blobs, None)

    def may_leave(self) -> bool:
        """Whether what is open may be closed: saved, or given up by the user."""
        self.saver.finish()
        if not self.session.unsaved:
            return True
        box = QMessageBox(self.parent)
        box.setWindowTitle("Unsaved changes")
        box.setText(f"“{self.session.publication.title}” has changes that are not saved.")
        keep = QMessageBox.StandardButton
        box.setStandardButtons(keep.Save | keep.Discard | keep.Cancel)
        box.setDefaultButton(keep.Save)
        answer = box.exec()
        if answer == keep.Save:
            return self.save()
        return bool(answer == keep.Discard)

    def new(self) -> None:
        from hidden_frame.desktop.dialogs.new import NewDialog

        dialog = NewDialog(self.parent, recent=settings().now.recent)
        made = dialog.exec()
        if dialog.going_on is not None:
            self.open_path(dialog.going_on)
        elif made and dialog.publication is not None:
            self._show(dialog.publication, {}, None)

    def demo(self) -> None:
        from hidden_frame.demo.almanac import almanac

        publication, blobs = almanac()
        self._show(publication, blobs, None)

    def open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.parent, "Open", "", _FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> bool:
        """Opens a file; what is open stays, whether or not the file is refused."""
        try:
            opened = load(path, PicturesOnDisk())
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
            return False
        except Exception as error:
            write_down(f"Opening {path.name}", error)
            self.session.noticed.emit(in_words(f"Opening “{path.name}”", error))
            return False
        settings().remember(path)
        sweep(path.parent)  # what a save that was killed has left there
        tell(self._show(opened.publication, opened.blobs, kept_at(opened, path)), opened, path)
        return True

    def save_beside(self) -> None:
        """Saves while one works on; where there is something to ask, it is asked first."""
        path = self.session.path
        if path is None or self._is_theirs(path):
            self.save()
        else:
            self.saver.begin(path)

    def save(self) -> bool:
        """Saves, and waits for it; whether the work stands in a file."""
        self.saver.finish()
        path = self.session.path
        if path is None:
            return self.save_as()
        return self._save_over(path) if self._is_theirs(path) else self._save(path)

    def _is_theirs(self, path: Path) -> bool:
        """Whether the file is no longer the one that was read or written here."""
        return not self.saver.busy and stamp_of(path) != self.session.stamp

    def _save_over(self, path: Path) -> bool:
        """Asks first: the file is no longer the one that was opened here."""
        from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog, State

        session = self.session
        dialog = ChangedFileDialog(path, State(session.composition, session.blobs), self.parent)
        dialog.exec()
        dialog.deleteLater()  # with all that the other file holds
        answer, theirs = dialog.answer, dialog.theirs
        if answer == "save as":
            return self.save_as()
        if answer == "take theirs" and theirs is not None:
            self.give_up(path, session.history.now, session.ahead(), session.blobs)
            page = session.page_id
            session.replace_all(*theirs[:2], path)
            if page in positions(session.publication):
                session.show_page(page)
            return True
        if answer == "overwrite" and theirs is not None:
            self.give_up(path, theirs.publication, 0, theirs.blobs)
        return answer == "overwrite" and self._save(path)

    def save_as(self) -> bool:
        path = self.session.path
        start = str(path) if path is not None else f"{self.session.publication.title}{EXTENSION}"
        name, _ = QFileDialog.getSaveFileName(self.parent, "Save as", start, _FILTER)
        if not name:
            return False
        path = Path(name)
        return self._save(path if path.suffix == EXTENSION else Path(f"{name}{EXTENSION}"))

    def _save(self, path: Path) -> bool:
        """Writes it now, and waits for it."""
        self.saver.begin(path)
        return self.saver.finish()

    def preview(self) -> bytes:
        """The first page as a small PNG."""
        first = all_pages(self.session.history.now)[0].id
        scene = self.session.composer.compose(self.session.history.now).scene(first)
        image = self.thumbnails.render(scene, 320).toImage()
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "PNG")  # type: ignore[call-overload]
        return bytes(buffer.data().data())

    def export(self) -> None:
        from hidden_frame.desktop.dialogs.pages import RangeDialog

        dialog = RangeDialog(self.session, self.parent, self.found)
        wanted = dialog.exec()
        dialog.deleteLater()  # it would go on asking what is doubtful
        if not wanted:
            return
        there = self.session.path
        start = (
            f"{self.session.publication.title}.pdf"
            if there is None
            else str(there.with_suffix(".pdf"))
        )
        name, _ = QFileDialog.getSaveFileName(self.parent, "Export PDF", start, "PDF (*.pdf)")
        if name:
            self.export_to(Path(name if name.lower().endswith(".pdf") else f"{name}.pdf"),
                           dialog.pages, dialog.bleed)  # fmt: skip

    def export_to(
        self, path: Path, pages: list[str] | None = None, bleed: float | None = None
    ) -> None:
        """Exports with a progress window from which it can be cancelled."""
        from hidden_frame.output.pdf import Cancelled, export_pdf  # large, and needed late

        session = self.session
        window = QProgressDialog("Exporting pages…", "Cancel", 0, 0, self.parent)
        window.setWindowModality(Qt.WindowModality.WindowModal)
        window.setWindowTitle("Export PDF")
        window.setMinimumDuration(600)

        shown = 0.0

        def progress(done: int, total: int) -> bool:
            nonlocal shown
            if done < total and time.perf_counter() < shown + _SHOWN:
                return True
            session.hurry()  # what looks at pages meanwhile would take as long as the export
            window.setMaximum(total)
            window.setValue(done)
            QApplication.processEvents()
            shown = time.perf_counter()
            return not window.wasCanceled()

        try:
            report = export_pdf(session.composition, session.blobs, path, pages, progress, bleed)
        except Cancelled:
            session.noticed.emit("The export was cancelled; no file was written.")
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
        except Exception as error:  # whatever it is, nobody is left to guess
            write_down("The export", error)
            session.noticed.emit(in_words("The export", error, "no file was written"))
        else:
            done = f"Exported “{path.name}”."
            session.noticed.emit(" ".join([done, *report.sentences[:2]]))
        finally:
            window.close()
            window.deleteLater()
