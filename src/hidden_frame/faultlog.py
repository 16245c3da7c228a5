"""The log of unforeseen faults, and what can be told of it to others.

>>> print(without_content('''2031-05-01 10:00:00,000 ERROR Opening diary.hframe
... Traceback (most recent call last):
...   File "/home/me/src/hidden_frame/storage/format.py", line 10, in load
...     raise KeyError(secret)
... KeyError: 'Dear diary'
... '''))
2031-05-01 10:00:00,000
  hidden_frame/storage/format.py, line 10, in load
  KeyError
"""

from __future__ import annotations

import platform
import re
from contextlib import suppress
from pathlib import Path

from platformdirs import user_log_path

from hidden_frame import __version__

LAST = 5  # faults that a report tells
_BEGIN = re.compile(r"(\d{4}-\d\d-\d\d \d\d:\d\d:\d\d,\d{3}) [A-Z]+ ")
_PLACE = re.compile(r'  File "([^"]*)", line (\d+), in (\S+)')
_KIND = re.compile(r"([A-Za-z_][\w.]*(?:Error|Exception|Interrupt|Exit|Refusal|Warning))\b(:|$)")


def log_file() -> Path:
    """Where faults are written to."""
    return user_log_path("hidden-frame") / "hidden-frame.log"


def without_content(log: str) -> str:
    """A log's times, places in the program and kinds of faults: no names of files, no words that
    somebody wrote."""
    told = []
    for line in log.splitlines():
        begin, place, kind = _BEGIN.match(line), _PLACE.match(line), _KIND.match(line)
        if begin:
            told.append(begin[1])
        elif place:
            module = re.search(r"(hidden_frame|[\w-]+)/[\w./-]*$", place[1])
            where = module[0] if module and "hidden_frame/" in place[1] else Path(place[1]).name
            where = where[where.rfind("hidden_frame/") :] if "hidden_frame/" in where else where
            told.append(f"  {where}, line {place[2]}, in {place[3]}")
        elif kind:
            told.append(f"  {kind[1]}")
    return "\n".join(told)


def report() -> str:
    """Version, system and the last faults, with nothing of any publication."""
    log = ""
    with suppress(OSError):
        log = log_file().read_text("utf-8", "replace")
    starts = [found.start() for found in re.finditer(_BEGIN.pattern, log, re.MULTILINE)]
    last = log[starts[-LAST] if len(starts) >= LAST else 0 :] if starts else ""
    faults = without_content(last) or "No fault was logged."
    system = f"{platform.system()} {platform.release()}, {platform.machine()}"
    return (
        f"Hidden Frame {__version__}\n{system}\nPython {platform.python_version()}\n\n"
        f"Last faults:\n{faults}\n"
    )
