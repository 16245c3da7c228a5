"""Runs the measures: `./bench`, `./bench --json`, `./bench --write`, `./bench master layout`."""

from __future__ import annotations

import gc
import json
import os
import subprocess
import sys

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from rich.console import Console
from rich.table import Table

from benchmarks import written
from benchmarks.across import across_rows
from benchmarks.cold import cold_rows, export_rows, opened_rows
from benchmarks.desk import desk_frames, selecting, start_up, typing
from benchmarks.driven import driven
from benchmarks.faults import faults
from benchmarks.flatplan import flatplan_frames, move_many
from benchmarks.frames import frames
from benchmarks.keyboard import keyboard_rows
from benchmarks.lines import lines
from benchmarks.lit import lit_rows
from benchmarks.masters import apply_to_all, root_drag, undo_memory
from benchmarks.measures import MEASURES, TIMES, TITLE, Row
from benchmarks.near import drawing, near_by, pictures
from benchmarks.pace import QUIET, judged
from benchmarks.resizing import resizing_rows
from benchmarks.script import catalogue
from benchmarks.settling import settling_rows
from benchmarks.size import size
from benchmarks.stories import bringing_in, edits, flowing, scripts, writing
from benchmarks.unbroken import unbroken

# Frames come first, each measure in a process of its own: as in use, nothing else is open.
ALONE = {
    "start": start_up,
    "desk": desk_frames,
    "selecting": selecting,
    "typing": typing,
    "family": root_drag,
    "apply": apply_to_all,
    "undo": undo_memory,
    "cold": cold_rows,
    "opened": opened_rows,
    "exported": export_rows,
    "near": near_by,
    "pictures": pictures,
    "drawing": drawing,
    "flatplan": flatplan_frames,
    "order": move_many,
    "script": catalogue,
    "flow": flowing,
    "scripts": scripts,
    "driven": driven,
    "writing": writing,
    "keyboard": keyboard_rows,
    "bring": bringing_in,
    "edits": edits,
    "unbroken": unbroken,
    "resizing": resizing_rows,
    "settling": settling_rows,
    "lines": lines,
    "across": across_rows,
    "lit": lit_rows,
}
LONG = {"size": size, "faults": faults, "frames": frames}  # only when asked for by name
MEASURES = ALONE | MEASURES | LONG
CAPTION = (
    "Times are met if they are, divided by the pace: how much slower than in a quiet spell "
    f"({QUIET:g} ms) the machine laid out the yardstick's 24 pages by QTextDocument meanwhile."
)


def main(arguments: list[str]) -> int:
    as_json, write = "--json" in arguments, "--write" in arguments
    names = [a for a in arguments if not a.startswith("--")] or [
        n for n in MEASURES if n not in LONG
    ]
    unknown = [n for n in names if n not in MEASURES]
    if unknown:
        known = ", ".join(MEASURES)
        print(f"There is no benchmark “{unknown[0]}”; choose from {known}.", file=sys.stderr)
        return 2
    gc.set_threshold(50_000, 20, 50)  # as the program itself sets it
    rows: list[Row] = []
    for number, name in enumerate(names, 1):
        print(f"[{number}/{len(names)}] {name} …", file=sys.stderr, flush=True)
        rows += _alone(name) if name in ALONE and len(names) > 1 else judged(MEASURES[name]())
    if as_json:
        for row in rows:
            print(json.dumps({**row._asdict(), "met": row.met}))
        return 0
    if write:
        written.write(rows)
    columns = ("measure", "value", "unit", "pace", "target", "met")
    table = Table(*columns, title=TITLE, caption=CAPTION)
    for row in rows:
        target = "" if row.target is None else f"{row.target:g}"
        met = {None: "", True: "yes", False: "no"}[row.met]
        pace = f"{row.pace:.2f}" if row.unit in TIMES else ""
        table.add_row(row.name, f"{row.value:,.2f}", row.unit, pace, target, met)
    Console(width=100).print(table)
    return 0


def _alone(name: str) -> list[Row]:
    """A measure's rows from a process of its own."""
    command = [sys.executable, "-m", "benchmarks", name, "--json"]
    done = subprocess.run(command, capture_output=True, text=True, check=True)
    found = [json.loads(line) for line in done.stdout.splitlines() if line.startswith("{")]
    return [Row(r["name"], r["value"], r["unit"], r["target"], r["pace"]) for r in found]


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
