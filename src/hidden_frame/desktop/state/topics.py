"""The pages of the guide, and which of them explains a command or a finding."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from hidden_frame.checks.faults import LINE_FAULTS
from hidden_frame.resources import GUIDE

# The page on which one reads about a kind of finding; about all others under “Into print”.
_OF_KIND = {
    "equal folios": "Number the pages", "even rectos": "Number the pages",
    "out of range": "Number the pages", "idle detail": "A head with two ends",
    "lost detail": "A head with two ends", "opening side": "Order and sections",
    "empty section": "Order and sections", "astray section": "Order and sections",
    "parted spread": "Order and sections", "empty pages": "A book from a manuscript",
    "waiting pages": "A book from a manuscript",
    "story does not fit": "A book from a manuscript",
    **dict.fromkeys(LINE_FAULTS, "Lines like a book"),
    **dict.fromkeys(("idle head", "idle rule", "lost reference", "lost term"), "What text drives"),
    "sheets": "Order and sections", "sleeping override": "One page departs",
}  # fmt: skip


def topic_of_kind(kind: str) -> str:
    """The page of the guide for a finding of this kind."""
    return _OF_KIND.get(kind, "Into print")


@cache
def topic_of_command(title: str) -> str:
    """The first page of the guide that names a command; "" where none does."""
    for topic, path in topics():
        if f"**{title}**" in " ".join(path.read_text("utf-8").split()):
            return topic
    return ""


def topics() -> list[tuple[str, Path]]:
    """Title and file of each page, in order."""
    return [(_title(path), path) for path in sorted(GUIDE.glob("*.md"), key=_number)]


def _title(path: Path) -> str:
    return path.read_text("utf-8").splitlines()[0].removeprefix("# ")


def _number(path: Path) -> int:
    """Which page of the guide a file is, by its name."""
    return int(path.stem.split("-")[0])
