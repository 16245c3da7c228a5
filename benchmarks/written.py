"""The table of `docs/speed.md`: what was measured takes the place of what stood there."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date
from pathlib import Path

from benchmarks.measures import TIMES, Row

PAGE = Path(__file__).parents[1] / "docs" / "speed.md"
BEGIN, END = "<!-- table: written by ./bench --write -->", "<!-- end of table -->"
HEAD = ["| measure | value | pace | target | met | on |", "|---|---|---|---|---|---|"]


def line_of(row: Row, day: str) -> str:
    """A row as a line of the table."""
    target = "" if row.target is None else f"{row.target:g}"
    met = {None: "", True: "yes", False: "no"}[row.met]
    pace = f"{row.pace:.2f}" if row.unit in TIMES else ""
    return f"| {row.name} | {row.value:,.2f} {row.unit} | {pace} | {target} | {met} | {day} |"


def merged(page: str, rows: Iterable[Row], day: str) -> str:
    """The page with these rows; others stay, new ones stand at the end."""
    before, rest = page.split(BEGIN)
    table, behind = rest.split(END)
    lines = {line.split("|")[1].strip(): line
             for line in table.strip().splitlines()[len(HEAD):]}  # fmt: skip
    lines |= {row.name: line_of(row, day) for row in rows}
    return "\n".join([before + BEGIN, *HEAD, *lines.values(), END + behind])


def write(rows: Iterable[Row]) -> None:
    """Puts rows into the page."""
    PAGE.write_text(merged(PAGE.read_text("utf-8"), rows, f"{date.today():%Y-%m-%d}"), "utf-8")
