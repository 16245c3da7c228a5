"""Programs that work until they are killed, telling each step that is done."""

from __future__ import annotations

SAVING = """
import sys
from pathlib import Path
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.storage.format import save
publication, blobs = almanac()
n = 0
while True:
    n += 1
    publication = set_title(publication, f"Save {n}")
    save(Path(sys.argv[1]), publication, blobs, b"preview")
    print(n, flush=True)
"""
KEEPING = """
import sys
from pathlib import Path
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.about import set_title
from hidden_frame.storage.recovery import About, Journal
publication, blobs = almanac()
journal, n = Journal(Path(sys.argv[1])), 0
while True:
    n += 1
    publication = set_title(publication, f"Step {n}")
    journal.write(publication, blobs, About(publication.title, "", n), b"first")
    print(n, flush=True)
"""
