"""Makes the table of line break classes from Unicode's LineBreak.txt (Debian: unicode-data).

python scripts/make_line_break.py /usr/share/unicode/LineBreak.txt
"""

from __future__ import annotations

import sys
from pathlib import Path

TARGET = Path(__file__).parent.parent / "src/hidden_frame/assets/unicode/line-break.txt"


def ranges(lines: list[str]) -> list[tuple[int, int, str]]:
    """First and last code point of each range, and its class; neighbours of one class joined."""
    found: list[tuple[int, int, str]] = []
    rows = [line.split("#")[0].split(";") for line in lines]
    for where, kind in sorted(
        (int(row[0].split("..")[0], 16), (row[0].strip(), row[1].strip()))
        for row in rows if len(row) == 2
    ):  # fmt: skip
        last = int(kind[0].split("..")[-1], 16)
        if found and found[-1][2] == kind[1] and found[-1][1] + 1 == where:
            found[-1] = (found[-1][0], last, kind[1])
        else:
            found.append((where, last, kind[1]))
    return found


def main() -> None:
    source = Path(sys.argv[1]).read_text(encoding="utf-8").splitlines()
    head = [
        f"# {source[0].strip('# ')}, © Unicode, Inc. (unicode.org/terms_of_use).",
        "# First and last code point, class.",
    ]  # fmt: skip
    rows = [f"{a:X} {b:X} {kind}" for a, b, kind in ranges(source)]
    TARGET.write_text("\n".join([*head, *rows]) + "\n", encoding="utf-8")
    print(f"wrote {len(rows)} ranges")


if __name__ == "__main__":
    main()
