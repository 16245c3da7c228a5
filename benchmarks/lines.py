"""How good lines are, and what choosing them costs: 20,000 words in three languages at three
measures, ours beside first fit and a plain whole-paragraph fit.

`./bench lines` tells the share of lines that are looser than the style likes (its target is the
plain fit's), the looseness that nine lines in ten stay below, and the time beside first fit's.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from benchmarks.measures import Row
from benchmarks.passages import PASSAGES, paragraphs
from benchmarks.plain_fit import Glue, plain_fit
from hidden_frame.model.memory import MEMORY
from hidden_frame.typeset.breaking.demerits import Fit
from hidden_frame.typeset.breaking.nodes import Nodes, nodes_of
from hidden_frame.typeset.breaking.total_fit import ladder
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.measures import fit_of
from hidden_frame.typeset.paragraph import ParagraphSpec, Spacing, Span
from hidden_frame.typeset.paragraphs import set_paragraph
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of

WORDS = 20_000
MEASURES = (65, 90, 110)  # mm
INDENT = 12.0  # points


class Quality(NamedTuple):
    """Of justified lines but the last ones: the share that is beyond what the style likes, the
    ratio (`demerits.ratio`) that 9 in 10 stay below, the most hyphens in a row, and how many
    last lines are shorter than the indent."""

    beyond: float
    ninth: float
    ladder: int
    short: int


Way = Callable[[ParagraphSpec, Nodes, Fit, float], list[int]]


def spec_of(text: str, language: str, **spacing: bool) -> ParagraphSpec:
    """A justified paragraph as in a book, 10.5 on 14 points."""
    setting = setting_of(font_book().face("Spectral"), 10.5)
    span = Span(text, setting, (0.0,), language=language)
    return ParagraphSpec(
        (span,), setting, 14.0, "justified", first=INDENT, spacing=Spacing(**spacing)
    )


def ours(spec: ParagraphSpec, nodes: Nodes, _fit: Fit, measure: float) -> list[int]:
    """As the program sets it."""
    (segment,) = segments(spec)
    ends = [
        segment.sources[at.token] + (at.used or segment.length(at.token)) for at in nodes.breaks
    ]
    number = {end: n for n, end in enumerate(ends)}
    return [number[line.end] for line in set_paragraph(spec, measure).lines]


def first_fit(spec: ParagraphSpec, nodes: Nodes, fit: Fit, measure: float) -> list[int]:
    """Line by line."""
    return ours(spec._replace(spacing=spec.spacing._replace(whole=False)), nodes, fit, measure)


def plain(_spec: ParagraphSpec, nodes: Nodes, fit: Fit, _measure: float) -> list[int]:
    """After the paper."""
    return plain_fit(nodes, Glue(fit.measure, fit.shrink, fit.stretch))


def quality(texts: list[str], language: str, measure: float, way: Way) -> Quality:
    """How good the lines are that a way of breaking gives at a measure (points)."""
    ratios, most, short = [], 0, 0
    for text in texts:
        spec = spec_of(text, language)
        fit = fit_of(spec, measure)
        nodes = nodes_of(segments(spec)[0], 0, None, INDENT, fit.measure, True)
        ends = [0, *way(spec, nodes, fit, measure)]
        for k, n in pairwise(ends[:-1]):
            gaps = nodes.end_gaps[n] - nodes.begin_gaps[k]
            room = fit.measure - (nodes.ends[n] - nodes.begins[k])
            ratios.append(room / ((gaps or 0.25) * (fit.stretch if room > 0 else fit.shrink)))
        short += nodes.ends[ends[-1]] - nodes.begins[ends[-2]] < INDENT
        most = max(most, ladder(nodes, ends))
    found = np.array(ratios)
    return Quality(
        100.0 * float((found > 1.0).mean()), float(np.percentile(found, 90)), most, short
    )


def lines() -> Iterator[Row]:
    """Quality and time, language by language and measure by measure."""
    for language in PASSAGES:
        texts = paragraphs(language, WORDS)
        for mm in MEASURES:
            measure = mm * 72 / 25.4
            found = {
                way: quality(texts, language, measure, way) for way in (ours, plain, first_fit)
            }
            where = f"{language}, {mm} mm"
            target = found[plain].beyond
            yield Row(f"lines beyond the style's limit, {where}", found[ours].beyond, "%", target)
            for way in (plain, first_fit):
                name = way.__name__.replace("_", " ")
                yield Row(f"… {name}, {where}", found[way].beyond, "%")
            for way, one in found.items():
                yield Row(f"… 9 in 10 below, {way.__name__.replace('_', ' ')}", one.ninth, "×")
            yield Row("… last lines shorter than the indent", found[ours].short, "lines", 0)
            yield Row("… most hyphens in a row", found[ours].ladder, "lines", 3)
            yield Row("… time beside first fit", _beside(texts, language, measure), "×")


def _beside(texts: list[str], language: str, measure: float) -> float:
    """How much longer all paragraphs take than by first fit, words shaped beforehand."""
    took = {}
    for whole in (False, True, False, True):
        several = [spec_of(t, language, whole=whole) for t in texts]
        MEMORY.clear_stale()
        MEMORY.clear_stale()
        begin = time.perf_counter()
        set_paragraph.each(several, measure)
        took[whole] = time.perf_counter() - begin
    return took[True] / took[False]
