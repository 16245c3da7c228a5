"""Makes `assets/unicode/quotes.txt` from the Unicode Consortium's CLDR: the quotation marks of each
language, outer and inner.  Takes the folder `main` of the npm package `cldr-misc-full`.

    .venv/bin/python scripts/make_quotes.py cldr/package/main 48.2.0
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

OUT = Path(__file__).parent.parent / "src/hidden_frame/assets/unicode/quotes.txt"
NAMES = ("quotationStart", "quotationEnd", "alternateQuotationStart", "alternateQuotationEnd")


def main(folder: Path, version: str) -> None:
    rows: dict[str, str] = {}
    for path in sorted(folder.glob("*/delimiters.json")):
        (content,) = json.loads(path.read_text("utf-8"))["main"].values()
        marks = content.get("delimiters", {})
        if all(marks.get(name) for name in NAMES):
            rows[path.parent.name.replace("-", "_")] = " ".join(marks[name] for name in NAMES)
    # A country of which nothing else is said has the marks of its language.
    kept = {k: v for k, v in rows.items() if "_" not in k or rows.get(k.split("_")[0]) != v}
    lines = [f"{language} {marks}" for language, marks in kept.items()]
    head = f"# Quotation marks by language: CLDR {version}, © Unicode, Inc., Unicode License v3."
    OUT.write_text("\n".join([head, *lines]) + "\n", "utf-8")
    print(f"wrote {len(lines)} languages")


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2])
