"""What nobody foresaw: written to a log, told in a sentence, and the window goes on.

A fault inside Qt's events would otherwise end on a terminal that nobody looks at.
"""

from __future__ import annotations

import logging
import re
import sys
from collections.abc import Callable, Iterable
from types import TracebackType
from typing import Protocol

from hidden_frame.faultlog import log_file

_log = logging.getLogger("hidden_frame")
_OVERRIDE = re.compile(r"Error calling Python override of \S+ ")  # put before each fault by Qt
_last: list[tuple[str, int]] = []  # the fault told last, so that one is not told at each repaint


def keep_log() -> None:
    """Starts the log, which begins anew after a megabyte and keeps two older ones."""
    from logging.handlers import RotatingFileHandler  # it loads sockets, which takes longer

    try:
        log_file().parent.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(log_file(), maxBytes=1_000_000, backupCount=2, delay=True,
                                      encoding="utf-8")  # fmt: skip
    except OSError:  # without a place for it the program runs all the same
        return
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    _log.addHandler(handler)
    _log.propagate = False


def write_down(what: str, error: BaseException) -> None:
    """A fault with where it came from, into the log, which is started for the first one."""
    if not _log.handlers:
        keep_log()
    _log.error("%s", what, exc_info=(type(error), error, error.__traceback__))


def in_words(what: str, error: BaseException, outcome: str = "nothing was changed") -> str:
    """One sentence: what failed, that nothing changed, where more is written."""
    said = " ".join(_OVERRIDE.sub("", str(error)).split())[:100]
    reason = f"{type(error).__name__}: {said}" if said else type(error).__name__
    return f"{what} failed because of a program error ({reason}); {outcome}. See the log."


class Teller(Protocol):
    """Whoever shows a fault where the work is: sessions do."""

    def mishap(self, what: str, error: Exception) -> None: ...


def catch_all(sessions: Callable[[], Iterable[Teller]]) -> None:
    """From now on a fault in any event is told by the first of these sessions."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if not isinstance(error, Exception):
            sys.__excepthook__(kind, error, trace)
            return
        error.__traceback__ = trace
        place = _place(trace)
        again = place in _last
        _last[:] = [place]
        if again:
            return
        session = next(iter(sessions()), None)
        if session is None:
            write_down("A fault", error)
            sys.__excepthook__(kind, error, trace)
            return
        session.mishap("That", error)

    sys.excepthook = hook


def _place(trace: TracebackType | None) -> tuple[str, int]:
    place = ("", 0)
    while trace is not None:
        place = (trace.tb_frame.f_code.co_filename, trace.tb_lineno)
        trace = trace.tb_next
    return place


def forget() -> None:
    """The same fault may be told again, since something else has been done in between."""
    _last.clear()
