"""Where the caret stood when a step of writing began and ended: undo and redo take it there."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import TextPlace

_MOST = 50_000  # steps whose carets are remembered


class StepCaret(NamedTuple):
    """The publication before or after a step, the frame that was written in and its story, ""
    without one, and the two ends of what was selected there."""

    publication: Publication
    editing: Editing
    story: str
    anchor: TextPlace
    caret: TextPlace


class StepCarets:
    """By the publication at which a step began, and at which it ended; of the latest steps."""

    def __init__(self) -> None:
        self._began: dict[int, StepCaret] = {}
        self._ended: dict[int, StepCaret] = {}

    def began(self, here: StepCaret) -> None:
        """A step begins here."""
        _keep(self._began, here)

    def ended(self, here: StepCaret) -> None:
        """It has ended here, so far."""
        _keep(self._ended, here)

    def at(self, publication: Publication, back: bool) -> StepCaret | None:
        """Where the caret goes with an undo to a publication (`back`), or a redo."""
        found = (self._began if back else self._ended).get(id(publication))
        return found if found is not None and found.publication is publication else None


def _keep(known: dict[int, StepCaret], here: StepCaret) -> None:
    known.pop(id(here.publication), None)
    known[id(here.publication)] = here
    if len(known) > _MOST:
        del known[next(iter(known))]
