"""One step of a history, for everybody: the window, scripts and the command line.

>>> from hidden_frame.edit.history import History
>>> from hidden_frame.edit.about import set_title
>>> history = step(History.of(publication), "title", lambda p: set_title(p, "Stars"))
>>> history.now.title
'Stars'
"""

from __future__ import annotations

from collections.abc import Callable

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.history import History, record
from hidden_frame.model.publication import Publication
from hidden_frame.settle.settling import settled


def step(
    history: History,
    name: str,
    change: Callable[[Publication], Publication],
    composer: Composer | None = None,
    merge: str = "",
) -> History:
    """The history after an edit, which is settled before it is recorded; the same object if the
    edit changed nothing.

    Several edits that one `change` makes are settled once.  Raises `Refusal` for an edit that
    can't be made, or that could not be opened again.  `merge` as in `record`.
    """
    changed = change(history.now)
    if changed is history.now:
        return history
    return record(history, settled(changed, composer), name, merge)
