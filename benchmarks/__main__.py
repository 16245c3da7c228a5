"""Runs the measures: `./bench`, `./bench --json`, `./bench master layout`."""

from __future__ import annotations

import gc
import json
import os
import sys

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from rich.console import Console
from rich.table import Table

from benchmarks.desk import desk_frames, start_up, typing
from benchmarks.measures import MEASURES, TITLE, Row

MEASURES |= {"desk": desk_frames, "typing": typing, "start": start_up}


def main(arguments: list[str]) -> int:
    as_json = "--json" in arguments
    names = [a for a in arguments if a != "--json"] or list(MEASURES)
    unknown = [n for n in names if n not in MEASURES]
    if unknown:
        known = ", ".join(MEASURES)
        print(f"There is no benchmark “{unknown[0]}”; choose from {known}.", file=sys.stderr)
        return 2
    gc.set_threshold(50_000, 20, 50)  # as the program itself sets it
    rows: list[Row] = []
    for number, name in enumerate(names, 1):
        print(f"[{number}/{len(names)}] {name} …", file=sys.stderr, flush=True)
        rows += MEASURES[name]()
    if as_json:
        for row in rows:
            print(json.dumps({**row._asdict(), "met": row.met}))
        return 0
    table = Table("measure", "value", "unit", "target", "met", title=TITLE)
    for row in rows:
        target = "" if row.target is None else f"{row.target:g}"
        met = {None: "", True: "yes", False: "no"}[row.met]
        table.add_row(row.name, f"{row.value:,.2f}", row.unit, target, met)
    Console(width=100).print(table)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
