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
from hidden_frame.storage.recovery import AboutWork, Journal
publication, blobs = almanac()
journal, n = Journal(Path(sys.argv[1])), 0
while True:
    n += 1
    publication = set_title(publication, f"Step {n}")
    journal.write(publication, blobs, AboutWork(publication.title, "", n), b"first")
    print(n, flush=True)
"""
# The real window: numbers are typed into a text, which is saved now and then; each one is told
# with its time.
EDITING = """
import os, random, sys, time
from pathlib import Path
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from hidden_frame.interact.sight.value import Editing
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.storage.format import load
app = QApplication([])
path, draw = Path(sys.argv[1]), random.Random(int(sys.argv[2]))
opened = load(path)
window = Windows(app).open(opened.publication, opened.blobs, path)
session, n = window.session, 0
page, frame = next((p, i) for p in all_pages(session.publication) for i in p.items
                   if isinstance(i, TextFrame))
session.show_page(page.id)
session.edit_text(Editing(page.id, frame.id, session.side_of(page.id)))

def type_one():
    global n
    n += 1
    QTest.keyClicks(window.desk, f"#{n} ")
    try:
        print(n, time.time(), flush=True)
    except BrokenPipeError:  # who looks on is gone
        os._exit(1)
    if draw.random() < 0.02:
        window.commands["save"].trigger()
    QTimer.singleShot(draw.randrange(60, 160), type_one)

QTimer.singleShot(0, type_one)
app.exec()
"""
