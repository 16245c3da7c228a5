"""Forty masters in chains up to five deep, twelve items each, and a thousand pages that follow.

An item of the root master is dragged in the real window; every page is reached by it.
"""

from __future__ import annotations

import resource
import time
from collections.abc import Iterator
from statistics import median

from msgspec.structs import replace

from benchmarks.desk import _frames, _rows, sender
from benchmarks.measures import Row, _timed, _window
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import Item, Line, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS

PAGES, MASTERS, ITEMS, DEEP, STEPS = 1000, 40, 12, 5, 500


def family() -> Publication:
    """The root, 39 masters built on it in chains, and pages that follow them in turn."""
    publication = new_publication("Family", Setup(trim=TRIMS["A5"], bleed=9), PAGES)
    root = publication.masters[0].id
    made, chain = [root], [root]
    for item in _items(0):
        publication, _ = add_item(publication, root, item)
    departs = publication.masters[0].items[1].id
    for number in range(1, MASTERS):
        if len(chain) == DEEP:
            chain = [root]
        publication, master = add_master(publication, f"Master {number}", chain[-1])
        for item in _items(number):
            publication, _ = add_item(publication, master, item)
        if number % 3 == 0:
            publication = override(publication, master, departs, opacity=0.5)
        chain.append(master)
        made.append(master)
    pages = tuple(
        replace(page, masters=(made[n % MASTERS],)) for n, page in enumerate(all_pages(publication))
    )
    section = replace(publication.sections[0], pages=pages)
    return replace(publication, sections=(section,))


def _items(number: int) -> list[Item]:
    """Six shapes, three lines and three texts of a master, at places of its own."""
    items: list[Item] = []
    for n in range(ITEMS):
        x, y = 20.0 + (number * 37 + n * 61) % 330, 20.0 + (number * 53 + n * 97) % 500
        if n % 4 == 3:
            words = (Run(f"Master {number}, page "), Marker("folio"))
            text = (Paragraph("folio", words),)
            items.append(TextFrame(id="", x=x, y=y, width=90, height=14, text=text))
        elif n % 4 == 2:
            stroke = Stroke(colour="ochre", width=1)
            items.append(Line(id="", x=x, y=y, width=60, height=0, stroke=stroke))
        else:
            fill = Fill("spruce", tint=0.3)
            items.append(Shape(id="", x=x, y=y, width=40, height=24, fill=fill))
    return items


def root_drag() -> Iterator[Row]:
    """Each move of the root's item until the desk shows it; then how soon the Run does."""
    from PySide6.QtCore import QEvent

    publication = family()
    app, window = _window(publication, {})
    session, desk, run = window.session, window.desk, window.run
    session.show_master(publication.masters[0].id)
    desk.camera.fit_to("spread")
    app.processEvents()
    window.thumbnails.finish()
    item = publication.masters[0].items[0]
    session.select_items(session.faces()[1], (item.id,))

    send = sender(app, window)

    def in_sight() -> list[str]:
        left = run.horizontalScrollBar().value()
        cells = run.layout_now().within(left, left + run.viewport().width())
        return [c.facts.page_id for c in cells]

    def fresh() -> bool:
        kept, composition = window.thumbnails._kept, session.composition
        return all(p in kept and kept[p][0] is composition.scene(p) for p in in_sight())

    x, y = item.x + 20, item.y + 12
    send(QEvent.Type.MouseButtonPress, x, y)
    moves = [
        lambda n=n: send(QEvent.Type.MouseMove, x + n * 1.3, y + n * 0.9) for n in range(8, 168)
    ]
    yield from _rows("drag an item of the root of 40 masters", _frames(app, desk, moves))
    waits = []
    for n in range(12):
        send(QEvent.Type.MouseMove, x + 30 + n * 9, y + 40)
        start = time.perf_counter()
        while not fresh() and time.perf_counter() - start < 5:
            app.processEvents()
        waits.append((time.perf_counter() - start) * 1000)
    yield Row(f"{len(in_sight())} thumbnails in sight after a move of the root", median(waits),
              "ms", 100)  # fmt: skip
    send(QEvent.Type.MouseButtonRelease, x + 200, y + 130)
    window.close()


def apply_to_all() -> Iterator[Row]:
    """A master applied to a thousand pages, until the window has taken it up."""
    publication = family()
    app, window = _window(publication, {})
    session = window.session
    pages = [p.id for p in all_pages(publication)]
    edits, shown = [], []
    for n in range(7):
        master = publication.masters[5 + n].id
        edits.append(_timed(lambda m=master: apply_masters(session.publication, pages, (m,))))
        start = time.perf_counter()
        session.edit("apply", lambda p, m=master: apply_masters(p, pages, (m,)))
        window.desk.repaint()
        shown.append(time.perf_counter() - start)
        settled = time.perf_counter() + 0.15  # the Run follows a moment later
        while time.perf_counter() < settled:
            app.processEvents()
    yield Row("apply a master to 1,000 pages", median(edits) * 1000, "ms", 50)
    yield Row("the same, until the desk shows it", median(shown) * 1000, "ms", 50)
    window.close()


def undo_memory() -> Iterator[Row]:
    """500 undo steps: the root moved, pages given other masters, now and then all of them."""
    publication = family()
    app, window = _window(publication, {})
    session = window.session
    pages = [p.id for p in all_pages(publication)]
    root = publication.masters[0]
    for n in range(STEPS):
        if n % 10 == 9:
            master = publication.masters[n % MASTERS].id
            session.edit("apply", lambda p, m=master: apply_masters(p, pages, (m,)))
        elif n % 2:
            some = pages[n * 7 % 900 :][:12]
            master = publication.masters[n % MASTERS].id
            session.edit("apply", lambda p, m=master, s=some: apply_masters(p, s, (m,), "add"))
        else:
            x = 20.25 + n * 0.5
            item = root.items[n % ITEMS].id
            session.edit("move", lambda p, x=x, i=item: change_items(p, root.id, {i: {"x": x}}))
        window.desk.repaint()
        app.processEvents()
    assert len(session.history.past) == STEPS
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    yield Row("peak memory after 500 undo steps", peak, "MB", 350)
    start = time.perf_counter()
    session.jump(-STEPS)
    window.desk.repaint()
    yield Row("back over all 500", (time.perf_counter() - start) * 1000, "ms")
    window.close()
