"""Undo and redo: a list of earlier values, each step with a name the user understands.

>>> history = History.of(publication)
>>> history = record(history, replace(publication, title="Field notes 2"), "title")
>>> undo(history).now is publication
True
"""

from __future__ import annotations

from msgspec import Struct
from msgspec.structs import replace

from hidden_frame.model.publication import Publication
from hidden_frame.model.valid import check_change


class Step(Struct, frozen=True):
    """A value to go back or forward to, the name of the step that led away from it, and the page
    on which that was done, if it was one."""

    publication: Publication
    name: str
    page: str = ""


class History(Struct, frozen=True):
    """The present value, the steps behind it (latest last) and those undone (next last)."""

    now: Publication
    past: tuple[Step, ...] = ()
    future: tuple[Step, ...] = ()
    merging: str = ""

    @staticmethod
    def of(publication: Publication) -> History:
        return History(publication)


def record(
    history: History, new: Publication, name: str, merge: str = "", page: str = ""
) -> History:
    """The history after one gesture; the same object if nothing changed.

    Raises `Refusal` for a publication that could not be opened again.

    Steps recorded one after the other with the same non-empty `merge` become one.
    """
    if new is history.now:
        return history
    check_change(history.now, new)
    if merge and merge == history.merging and history.past and not history.future:
        return replace(history, now=new)
    past = (*history.past, Step(history.now, name, page))
    return History(new, past, (), merge)


def shortened(history: History, steps: int) -> History:
    """The history with the latest steps alone: memory is short.

    >>> history = record(History.of(publication), replace(publication, title="B"), "title")
    >>> len(shortened(history, 0).past)
    0
    """
    if len(history.past) <= steps:
        return history
    return replace(history, past=history.past[len(history.past) - steps :])


def sealed(history: History) -> History:
    """The same history, whose last step takes in nothing more."""
    return replace(history, merging="") if history.merging else history


def undo(history: History) -> History:
    if not history.past:
        return history
    *past, step = history.past
    there = replace(step, publication=history.now)
    return History(step.publication, tuple(past), (*history.future, there))


def redo(history: History) -> History:
    if not history.future:
        return history
    *future, step = history.future
    there = replace(step, publication=history.now)
    return History(step.publication, (*history.past, there), tuple(future))


def jump(history: History, steps: int) -> History:
    """That many steps forward, or back if negative; as far as there are any."""
    move = redo if steps > 0 else undo
    for _ in range(abs(steps)):
        history = move(history)
    return history
