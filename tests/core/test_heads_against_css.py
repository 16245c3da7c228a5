"""Running heads against those of a renderer of CSS, on the same pages.

CSS Generated Content for Paged Media (W3C working draft of 13 May 2014), 1.1.2: `first`, `start`
and `last` of a named string are our first one, the one at the top, and the last; `first-except`
has no counterpart here, and our “before” none there.
"""

from __future__ import annotations

import html
import io
import re
import subprocess
import sys

import pypdf
from hypothesis import given, settings
from hypothesis import strategies as st
from test_running_heads import book, shown

from hidden_frame.edit.stories import pour
from hidden_frame.model.text import Head, Paragraph, Run
from hidden_frame.settle.settling import settled

# In a process of its own: its system libraries don't agree with those that are loaded here.
RENDER = "import sys, weasyprint; weasyprint.HTML(sys.stdin.buffer).write_pdf(sys.stdout.buffer)"
OURS = ("first", "at the top", "last")
THEIRS = ("first", "start", "last")
PAGES = st.lists(
    st.lists(st.sampled_from(["title", "body"]), min_size=1, max_size=4), min_size=1, max_size=24
)


def named(pages):
    """The pages with words: headings are told apart by a number."""
    count = iter(range(1, 99))
    return [
        [(kind, f"H{next(count)}" if kind == "title" else "night") for kind in p] for p in pages
    ]


def by_css(pages):
    """What the renderer shows on each page for each of `THEIRS`."""
    boxes = "".join(
        f"@{place} {{ content: '<' string(h, {what}) '>' }}"
        for place, what in zip(("top-left", "top-center", "top-right"), THEIRS, strict=True)
    )
    style = f"@page {{ size: 600pt 300pt; margin: 60pt; {boxes} }} h1 {{ string-set: h content() }}"
    body = "".join(
        "<section style='break-after: page'>"
        + "".join(
            f"<{'h1' if kind == 'title' else 'p'} style='margin: 0'>{html.escape(words)}"
            f"</{'h1' if kind == 'title' else 'p'}>"
            for kind, words in page
        )
        + "</section>"
        for page in pages
    )
    source = f"<!doctype html><meta charset='utf-8'><style>{style}</style>{body}".encode()
    done = subprocess.run([sys.executable, "-c", RENDER], input=source, capture_output=True)
    assert not done.returncode, done.stderr.decode()[-2000:]
    found = []
    for page in pypdf.PdfReader(io.BytesIO(done.stdout)).pages:
        words = " ".join(page.extract_text().split())
        found.append(tuple(re.findall(r"<\s*([^<>]*?)\s*>", words)))
    return found


@given(PAGES)
@settings(max_examples=5)
def test_first_last_and_top_are_those_of_css(pages):
    pages = named(pages)
    heads = [Head("title", which=which) for which in OURS]  # type: ignore[arg-type]
    publication, _ = book(pages=len(pages), heads=heads)
    text = tuple(
        Paragraph(kind, (Run(words),), starts="page" if n == 0 and k else None)
        for k, page in enumerate(pages)
        for n, (kind, words) in enumerate(page)
    )
    publication, _ = pour(publication, publication.sections[0].id, text, "Story")
    ours = [tuple(w.strip() for w in line.split("–")) for line in shown(settled(publication))]
    assert ours[: len(pages)] == by_css(pages)


def test_the_comparison_notices_another_reading():
    pages = named([["title", "body"], ["body", "title"], ["title"]])
    assert by_css(pages) == [("H1", "H1", "H1"), ("H2", "H1", "H2"), ("H3", "H3", "H3")]
