"""One open publication: its history, and what the user looks at and has selected.

Every change goes through `edit`; widgets listen to two signals and read the rest.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import Future
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QObject, QTimer

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.given import Given
from hidden_frame.desktop.state.looking import Looking
from hidden_frame.desktop.state.memory_left import memory_is_short
from hidden_frame.desktop.state.mishaps import forget, in_words, write_down
from hidden_frame.desktop.state.slices import AT_ONCE, SLICE
from hidden_frame.edit.history import History, jump, record, redo, sealed, shortened, undo
from hidden_frame.interact.hands.copies import story_copies
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.interact.sight.acts import at_rest
from hidden_frame.interact.sight.value import is_there
from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication
from hidden_frame.model.valid import check_change
from hidden_frame.settle.opening import settled_in_words
from hidden_frame.settle.settling import settling
from hidden_frame.settle.slices import Working
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.stamps import Stamp, stamp_of

_LOOK = 100  # steps after which it is seen whether memory is short
_REST = 0.25  # seconds without a movement until something rests
_PAUSE = 80  # milliseconds until it is seen whether what moves rests


class _Step(NamedTuple):
    """An edit whose value is being settled; without a name what was opened is."""

    working: Working
    name: str
    merge: str = ""
    page: str = ""


class _Outcome:
    """Whether something went well."""

    well = False


class Session(Looking):
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
        self._step: _Step | None = None
        self._waiting: list[Callable[[], None]] = []  # what is told once that is known
        self._slices = QTimer(self)
        self._slices.timeout.connect(self._slice)
        self.composer = Composer()
        self.blobs = blobs if isinstance(blobs, PicturesOnDisk) else PicturesOnDisk(blobs)
        self._open(publication, path)

    def _open(self, publication: Publication, path: Path | None) -> None:
        self._unproven: History | None = None  # what to go back to if the last step fails
        self._step = None
        self.kept = History.of(publication)
        self.saved: Publication | None = publication if path else None
        self.path = path
        self.opened = self.saved  # what the file held when it was opened
        self.stamp = stamp_of(path)  # of the file as it was read or written last
        self.recovered = False  # whether it is work that was left behind
        self.called = ""  # what it is, where it stands in no file
        self.token = os.urandom(8).hex()  # tells what was copied here
        self.draft: Publication | None = None
        self.look_at(publication)
        self._step = _Step(Working(settling(publication, self.composer), publication), "")
        self._slices.start(_PAUSE)

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
    def history(self) -> History:
        """Its steps; what the last edit brings with it is worked out before they are told."""
        self.finish()
        return self.kept

    @history.setter
    def history(self, history: History) -> None:
        self.kept = history

    @property
    def publication(self) -> Publication:
        """What is to be shown: the draft of a gesture under way, or the present value."""
        return self.kept.now if self.draft is None else self.draft

    @property
    def composition(self) -> Composition:
        self.composer.given = Given(self.path.stem if self.path is not None else "")
        return self.composer.compose(self.publication)

    @property
    def busy(self) -> bool:
        """Whether a hand is at work, or something is settled, so that everything but the desk may
        follow later."""
        return self.draft is not None or self.editing is not None or self.settles

    @property
    def settles(self) -> bool:
        """Whether what an edit brings with it is being worked out."""
        return self._step is not None and bool(self._step.name)

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
        return self.saved is not self.kept.now

    @property
    def unsaved(self) -> bool:
        """Whether there is work that would be lost."""
        return self.modified and (self.recovered or bool(self.kept.past))

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
        past = self.kept.past
        at = next((n for n, s in enumerate(past) if s.publication is self.saved), 0)
        return len(past) - at

    def edit(
        self,
        name: str,
        change: Callable[[Publication], Publication],
        merge: str = "",
        page: str = "",
        aloud: bool = True,
    ) -> bool:
        """One undo step, done on a page if it says so; a refusal becomes a notice and changes
        nothing, or is raised if it is not to be said `aloud`.

        What it brings with it is worked out at once where that takes a moment; where it takes
        longer the desk goes on, and shows what is there so far.
        """
        before = self.history.now
        with self._telling(name, aloud) as told:
            self._settle(change(before), name, merge, page)
        return told.well

    @contextmanager
    def _telling(self, name: str, aloud: bool = True) -> Iterator[_Outcome]:
        """Refusals and faults are told, and change nothing."""
        outcome = _Outcome()
        try:
            yield outcome
            outcome.well = True
        except Refusal as refusal:
            self._drop()
            if not aloud:
                raise
            self.noticed.emit(str(refusal))
        except Exception as error:  # a fault nobody foresaw: nothing changes, and it is told
            self._drop()
            self.mishap(f"“{name[:1].upper()}{name[1:]}”", error)

    def _drop(self) -> None:
        """What is being settled is not wanted any more."""
        self._slices.stop()
        self._waiting = []
        had, self._step = self.draft is not None, None
        if had:
            self.draft = None
            self.changed.emit()

    def _settle(self, changed: Publication, name: str, merge: str, page: str = "") -> None:
        if changed is self.kept.now:
            self.draft = None
            return
        self._step = _Step(Working(settling(changed, self.composer), changed), name, merge, page)
        if self._step.working.go_on(AT_ONCE):
            self._take()
        else:
            check_change(self.kept.now, changed)  # what is refused is so at once
            self._show()
            self._slices.start(0)

    def _show(self) -> None:
        """What is settled so far is seen."""
        assert self._step is not None
        seen = self._step.working.seen
        if self._step.name and seen is not self.draft:
            self.draft = seen
            self.keep_what_exists(seen)
            self.changed.emit()

    def _slice(self) -> None:
        """A little more of what is being settled."""
        step = self._step
        if step is None:
            self._slices.stop()
        elif step.name or self.rests:
            self._slices.setInterval(0)
            with self._telling(step.name or "opening"):
                if step.working.go_on(SLICE):
                    self._take()
                else:
                    self._show()
        else:
            self._slices.setInterval(_PAUSE)

    def once_settled(self, tell: Callable[[], None]) -> None:
        """Does something when what the last edit brings with it is known: at once, if it is."""
        if self.settles:
            self._waiting.append(tell)
        else:
            tell()

    def finish(self) -> None:
        """What the last edit brings with it is worked out, and stands in the history."""
        step = self._step
        if step is not None:
            with self._telling(step.name or "opening"):
                step.working.finish()
                self._take()

    def _take(self) -> None:
        """What was settled becomes a step."""
        assert self._step is not None
        (working, name, merge, page), self._step = self._step, None
        self._slices.stop()
        new = working.seen
        if not name:
            self._opened_as(new)
            return
        history = record(self.kept, new, name, merge, page)
        self.draft = None
        self._move(self._within_memory(history))
        waiting, self._waiting = self._waiting, []
        for tell in waiting:
            tell()

    def _within_memory(self, history: History) -> History:
        """Steps go back as far as memory allows; half of them are left where it is short."""
        count = len(history.past)
        if count % _LOOK == 0 and count >= 2 * _LOOK and memory_is_short():
            history = shortened(history, count // 2)
            self.noticed.emit(
                f"Memory is low: undo now goes back {grouped(len(history.past))} steps."
            )
        return history

    def _opened_as(self, new: Publication) -> None:
        """What was opened is what it was, or is settled from now on."""
        old = self.kept.now
        if new is old or self.kept.past:
            return
        self.kept = History.of(new)
        self.keep_what_exists(new)
        self.changed.emit()
        if self.path is not None:
            self.noticed.emit(settled_in_words(old, new))

    def set_draft(self, publication: Publication | None) -> None:
        """What a gesture under way would result in; None goes back to the present value."""
        self.finish()
        if publication is not self.draft:
            self.draft = publication
            if not is_there(self.sight, self.publication):  # a draft may have had more pages
                self.keep_what_exists(self.publication)
            self.changed.emit()

    def commit(self, made: Publication, name: str) -> None:
        """What was shown as a draft, or something that came of it, becomes one undo step; nothing
        is taken back in between."""
        self.draft = made
        self.commit_draft(name)

    def commit_draft(self, name: str) -> None:
        """The gesture's result becomes one undo step."""
        draft, self.draft = self.draft, None
        if draft is None:
            return
        with self._telling(name) as told:
            self._settle(draft, name, "")
        if not told.well:
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
        self._step = None
        before, self._unproven, self.draft = self._unproven, None, None
        self.sight = at_rest(self.sight)
        if before is not None:
            self.history = before
            self.composer = Composer()  # what it remembers may be what failed
            self.keep_what_exists(self.kept.now)
        self.changed.emit()
        self.noticed.emit(in_words(what, error))

    def proven(self) -> None:
        """The last step has been painted, so it stays even if something fails later."""
        self._unproven = None

    def undo(self) -> None:
        self._move(undo(self.history))

    def take_back(self, before: History) -> None:
        """As it was before a step that nobody wanted: nothing is left of it, to redo either."""
        self._move(before)

    def jump(self, steps: int) -> None:
        """Back by so many steps if negative, forward otherwise."""
        self._move(jump(self.history, steps))

    def redo(self) -> None:
        self._move(redo(self.history))

    def seal(self) -> None:
        """What is typed next is an undo step of its own; nobody waits for what is settled."""

        def seal() -> None:
            self.kept = sealed(self.kept)

        self.once_settled(seal)

    def _move(self, history: History) -> None:
        if history is self.kept:
            return
        before, back = self.kept.now, len(history.past) < len(self.kept.past)
        self._unproven, self.kept = self.kept, history
        forget()
        QTimer.singleShot(1_000, self, self.proven)
        if history.now is not before:
            self.composer.forget_missing(history.now)
            self.keep_what_exists(history.now)
            self.stepped.emit(back)
        self.changed.emit()
