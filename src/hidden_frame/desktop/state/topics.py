"""The pages of the guide, and which of them explains a command or a finding."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from hidden_frame.checks.kinds import INTO_PRINT, kind_of
from hidden_frame.resources import GUIDE

__all__ = ["INTO_PRINT", "topic_of_command", "topic_of_kind", "topics"]


def topic_of_kind(kind: str) -> str:
    """The page of the guide for a finding of this kind."""
    return kind_of(kind).guide


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
