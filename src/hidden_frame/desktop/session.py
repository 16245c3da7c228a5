"""One open publication: its history, and what the user looks at and has selected.

Every change goes through `edit`; widgets listen to two signals and read the rest.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import Future
from pathlib import Path

from PySide6.QtCore import QObject, QTimer

from hidden_frame.compose.composer import Composer, Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.given import Given
from hidden_frame.desktop.mishaps import forget, in_words, write_down
from hidden_frame.desktop.sight import Sight
from hidden_frame.edit.history import History, jump, record, redo, sealed, undo
from hidden_frame.interact.copies import story_copies
from hidden_frame.interact.growth import grown
from hidden_frame.interact.shown import items_on
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.stamps import Stamp, stamp_of

_REST = 0.25  # seconds without a movement until something rests


class Session(Sight):
    """Its publication is a value; every change of it is a step of its `history`."""

    def __init__(
        self,
        publication: Publication,
        blobs: Mapping[str, bytes] | None = None,
        path: Path | None = None,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._hurried = self._filling = 0.0
        self._beside: list[Future[None]] = []  # what threads do: they and the desk share one lock
        self.composer = Composer()
        self.blobs = blobs if isinstance(blobs, PicturesOnDisk) else PicturesOnDisk(blobs)
        self._open(publication, path)

    def _open(self, publication: Publication, path: Path | None) -> None:
        self._unproven: History | None = None  # what to go back to if the last step fails
        self.history = History.of(publication)
        self.saved: Publication | None = publication if path else None
        self.path = path
        self.opened = self.saved  # what the file held when it was opened
        self.stamp = stamp_of(path)  # of the file as it was read or written last
        self.recovered = False  # whether it is work that was left behind
        self.token = os.urandom(8).hex()  # tells what was copied here
        self.draft: Publication | None = None
        self._look_at(publication)

    def replace_all(
        self, publication: Publication, blobs: Mapping[str, bytes], path: Path | None
    ) -> None:
        """Another publication in this window, with a history of its own."""
        self.composer = Composer()
        for digest in self.blobs:
            if digest not in blobs:
                del self.blobs[digest]
        self.blobs.update(blobs)
        self._open(publication, path)
        self.changed.emit()
        self.looked.emit()

    # -- the publication ---------------------------------------------------------

    @property
    def publication(self) -> Publication:
        """What is to be shown: the draft of a gesture under way, or the present value."""
        return self.history.now if self.draft is None else self.draft

    @property
    def composition(self) -> Composition:
        self.composer.given = Given(self.path.stem if self.path is not None else "")
        return self.composer.compose(self.publication)

    @property
    def busy(self) -> bool:
        """Whether a hand is at work, so that everything but the desk may follow later."""
        return self.draft is not None or self.editing is not None

    def hurry(self) -> None:
        """Something moves on the screen: what can wait, waits until it rests."""
        self._hurried = time.perf_counter() + _REST

    @property
    def hurried(self) -> bool:
        return time.perf_counter() < self._hurried

    def fill(self) -> None:
        """What is in sight is still being composed: what is not in sight waits."""
        self._filling = time.perf_counter() + _REST

    @property
    def rests(self) -> bool:
        """Whether nothing moves, nothing in sight is missing, and nothing is written beside."""
        if any(not work.done() for work in self._beside):
            return False
        return time.perf_counter() > max(self._hurried, self._filling)

    def beside(self, work: Future[None]) -> None:
        """Something is done beside the desk, and what can wait, waits for it."""
        self._beside = [*(each for each in self._beside if not each.done()), work]

    @property
    def modified(self) -> bool:
        return self.saved is not self.history.now

    @property
    def unsaved(self) -> bool:
        """Whether there is work that would be lost."""
        return self.modified and (self.recovered or bool(self.history.past))

    def keep_saved(self, path: Path, publication: Publication) -> None:
        """A value stands in a file now."""
        self.path, self.saved, self.stamp = path, publication, stamp_of(path)
        self.recovered = False
        self.looked.emit()

    def recover(self, stamp: Stamp | None) -> None:
        """What was opened is work that was left behind: it stands in no file yet; `stamp` is that
        of the file which it goes back to."""
        self.recovered, self.saved, self.stamp = True, None, stamp
        self.looked.emit()

    def ahead(self) -> int:
        """How many steps the work is ahead of what was saved; of all, if that is not among them."""
        past = self.history.past
        at = next((n for n, s in enumerate(past) if s.publication is self.saved), 0)
        return len(past) - at

    def edit(
        self, name: str, change: Callable[[Publication], Publication], merge: str = ""
    ) -> bool:
        """One undo step; a refusal becomes a notice and changes nothing."""
        try:
            changed = grown(change(self.history.now), self.composer)
            history = record(self.history, changed, name, merge)
        except Refusal as refusal:
            self.noticed.emit(str(refusal))
            return False
        except Exception as error:  # a fault nobody foresaw: nothing changes, and it is told
            self.mishap(f"“{name[:1].upper()}{name[1:]}”", error)
            return False
        self.draft = None
        self._move(history)
        return True

    def set_draft(self, publication: Publication | None) -> None:
        """What a gesture under way would result in; None goes back to the present value."""
        if publication is not self.draft:
            self.draft = publication
            self.changed.emit()

    def commit_draft(self, name: str) -> None:
        """The gesture's result becomes one undo step."""
        draft, self.draft = self.draft, None
        if draft is None:
            return
        try:
            self._move(record(self.history, grown(draft, self.composer), name))
        except Refusal as refusal:
            self.noticed.emit(str(refusal))
            self.changed.emit()

    def tell_copies(
        self, source: str, items: Sequence[str], page: str, made: Sequence[str]
    ) -> None:
        """Asks what those of the copies show whose frames show a story; `made` has one or more
        copies of each item, in the order of what they are copies of."""
        facts = page_facts(self.publication)
        if self.mode == "pages" and source in facts:
            wanted, seen = set(items), items_on(self.publication, source, facts[source].side)
            order = [r.item.id for r in seen if r.item.id in wanted]
            times = len(made) // len(order) if order else 0
            found = story_copies(self.composition, source, order * times, page, made)
            if found:
                self.copied.emit(found)

    def mishap(self, what: str, error: Exception) -> None:
        """A fault nobody foresaw: what was under way or has just been done is taken back, and
        the fault is told and written down."""
        write_down(what, error)
        before, self._unproven, self.draft = self._unproven, None, None
        self.editing, self.cropping = None, False
        if before is not None:
            self.history = before
            self.composer = Composer()  # what it remembers may be what failed
            self._keep_what_exists(self.history.now)
        self.changed.emit()
        self.noticed.emit(in_words(what, error))

    def proven(self) -> None:
        """The last step has been painted, so it stays even if something fails later."""
        self._unproven = None

    def undo(self) -> None:
        self._move(undo(self.history))

    def jump(self, steps: int) -> None:
        """Back by so many steps if negative, forward otherwise."""
        self._move(jump(self.history, steps))

    def redo(self) -> None:
        self._move(redo(self.history))

    def seal(self) -> None:
        """What is typed next is an undo step of its own."""
        self.history = sealed(self.history)

    def _move(self, history: History) -> None:
        if history is self.history:
            return
        before = self.history.now
        self._unproven, self.history = self.history, history
        forget()
        QTimer.singleShot(1_000, self, self.proven)
        if history.now is not before:
            self.composer.forget_missing(history.now)
            self._keep_what_exists(self.history.now)
        self.changed.emit()
