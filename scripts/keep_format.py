"""Keeps a file of the present number of the format, and its shape, in tests/files/.

Run after `FORMAT` was raised; what was kept for a number is never written again.
"""

import json
from pathlib import Path

from hidden_frame.demo.almanac import almanac
from hidden_frame.storage.decoding import schema, shape
from hidden_frame.storage.format import save
from hidden_frame.storage.numbers import FORMAT

FILES = Path(__file__).parent.parent / "tests" / "files"

if __name__ == "__main__":
    FILES.mkdir(parents=True, exist_ok=True)
    kept = FILES / f"format-{FORMAT}.hframe"
    if kept.exists():
        raise SystemExit(f"{kept.name} is there; raise FORMAT first (storage/numbers.py).")
    publication, _ = almanac()
    save(kept, publication, {})  # its pictures would take most of the room
    told = json.dumps(shape(json.loads(schema())), sort_keys=True, separators=(",", ":"))
    (FILES / f"format-{FORMAT}.shape.json").write_text(told + "\n")
    print(f"wrote {kept.name} and its shape")
