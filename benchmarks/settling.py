"""What an edit brings with it: nothing to be done, a section started in a running story, growth in
slices, and rows with tabs beside plain paragraphs."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from statistics import median

from benchmarks.driven import driven_book
from benchmarks.measures import Row
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.pages.order import set_blind
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import set_story_text
from hidden_frame.interact.words.storied import running_into
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.publication import Publication
from hidden_frame.settle.settling import settled, settling
from hidden_frame.settle.slices import Working
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.paragraph import ParagraphSpec, Span, Tab
from hidden_frame.typeset.shaping import setting_of

SLICE = 0.016  # seconds, as the window gives it


def _milliseconds(work: Callable[[], object], times: int) -> float:
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return median(taken)


def settling_rows() -> Iterator[Row]:
    """The driven book at rest, a section started in its middle, its text twice as long."""
    publication, story = driven_book()
    composer = Composer()
    settled(publication, composer)
    pages = len(all_pages(publication))
    yield Row(f"settle of an untouched publication of {pages} pages",
              _milliseconds(lambda: settled(publication, composer), 50), "ms", 1)  # fmt: skip
    blind = set_blind(publication, [all_pages(publication)[pages // 2].id], True)

    def unseen() -> None:
        settled(publication, composer)
        settled(blind, composer)

    yield Row("settle after an edit that no text sees, there and back",
              _milliseconds(unseen, 9), "ms", None)  # fmt: skip
    yield Row("the same when it has just been opened",
              _milliseconds(lambda: settled(publication), 3), "ms", None)  # fmt: skip
    yield Row("a section started in the middle of it",
              _section(publication, composer), "ms", 100)  # fmt: skip
    text = find_story(publication, story).text
    twice = set_story_text(publication, story, (*text, *text))
    slices = _slices(twice)
    more = len(all_pages(settled(twice))) - pages
    yield Row(f"longest slice while {more} pages are added", max(slices), "ms", None)
    yield Row("slice, median", median(slices), "ms", 33)
    yield Row("all of them / in one go", sum(slices) / _milliseconds(
        lambda: settled(twice), 1), "ratio", None)  # fmt: skip
    yield from _tabs()


def _section(publication: Publication, composer: Composer) -> float:
    """Started at a page in the middle and settled, as one press does; taken back each time."""
    page = all_pages(publication)[len(all_pages(publication)) // 2].id

    def press() -> None:
        carrying = running_into(composer.compose(publication), page)
        started, _ = start_section(publication, page, "Two", carrying=carrying)
        assert len(all_pages(settled(started, composer))) == len(all_pages(publication))

    return _milliseconds(press, 5)


def _slices(publication: Publication) -> list[float]:
    """How long each slice holds the desk."""
    working, found = Working(settling(publication, Composer()), publication), []
    while not working.done:
        began = time.perf_counter()
        working.go_on(SLICE)
        found.append((time.perf_counter() - began) * 1000)
    return found


def _tabs() -> Iterator[Row]:
    """Lines of 400 rows with a folio at the right edge, beside the same words without a tab."""
    setting = setting_of(font_book().face("Spectral"), 10.0)
    words = [f"Title {n} " + "of a chapter on the night sky " * (n % 4) for n in range(400)]
    stops = (Tab(None, "right", " ."),)

    def spec(text: str) -> ParagraphSpec:
        return ParagraphSpec((Span(text, setting, (0.0,)),), setting, 14.0, tabs=stops)

    rows = [spec(f"{w.strip()}\t{n}") for n, w in enumerate(words)]
    plain = [spec(f"{w.strip()} {n}") for n, w in enumerate(words)]
    took = {
        name: _milliseconds(lambda several=several: [set_lines(s, 200.0) for s in several], 5)
        for name, several in (("rows", rows), ("plain", plain))
    }
    yield Row("rows with a tab / plain paragraphs", took["rows"] / took["plain"], "ratio", None)
