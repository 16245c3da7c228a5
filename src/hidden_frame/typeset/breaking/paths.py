"""The best ways through the nodes of many paragraphs at once, in arrays.

The same rule as `total_fit.best_path`, bit for bit: widths are multiples of 2**-16 points, so
sums don't depend on their order, and what is divided and multiplied is so in the same order.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.demerits import (
    BEYOND,
    CAP,
    FORBIDDEN,
    HYPHEN,
    HYPHEN_BEFORE_LAST,
    HYPHENS_IN_A_ROW,
    LINE,
    LONE,
    NO_INDENT,
    OVERFULL,
    SHORT_LAST,
    UNLIKE,
    Fit,
)

Floats = NDArray[np.float64]
Numbers = NDArray[np.int64]
Flags = NDArray[np.bool_]


class NodeArrays(NamedTuple):
    """Nodes of several paragraphs, one behind the other: `first` and `last` are the numbers of
    each paragraph's first and last node, all else has a value a node (`nodes.Nodes`).

    `hyphens` is None if no line may end with one."""

    first: Numbers
    last: Numbers
    ends: Floats
    end_gaps: Numbers
    begins: Floats
    begin_gaps: Numbers
    hyphens: Flags | None


class Paths(NamedTuple):
    """The nodes at which lines end, paragraph after paragraph, `counts` in each; `worst` is the
    ratio of each paragraph's loosest line, `ladder` its most hyphens in a row."""

    nodes: Numbers
    counts: Numbers
    worst: Floats
    ladder: Numbers


def best_paths(nodes: NodeArrays, fit: Fit, ways: int) -> Paths:
    """The best ways through all paragraphs, node after node in each, in all at once."""
    fullest = _fullest(nodes, fit)
    length = nodes.last - nodes.first
    longest = np.argsort(-length, kind="stable")
    first, falling = nodes.first[longest], -length[longest]
    # How many paragraphs have a node that many behind their first one, and are not at their end.
    many = np.searchsorted(falling, -np.arange(1, -int(falling[0])), side="left")
    here = [first[:n] + step for step, n in enumerate(many, 1)]
    state = _State(len(nodes.ends), nodes.hyphens is not None)
    if here:
        lines = _lines(nodes, fit, fullest, np.concatenate(here), ways)
        begin = 0
        for at in here:
            end = begin + len(at)
            _step(state, nodes, fit, at, lines.part(begin, end))
            begin = end
    most = int((nodes.last - fullest[nodes.last]).max())
    lines = _lines(nodes, fit, fullest, nodes.last, most, last=True)
    _step(state, nodes, fit, nodes.last, lines, last=True)
    return _followed(state, nodes, fit)


class _State:
    """What is known of the best way to each node."""

    def __init__(self, count: int, divided: bool) -> None:
        self.best = np.zeros(count)
        self.before = np.zeros(count, np.int64)
        self.kind = np.ones(count, np.int8)
        self.row = np.zeros(count, np.int8) if divided else None


class _Lines(NamedTuple):
    """Lines that end at nodes, a row a node, the fullest line first: demerits, tightness, and
    the node from which each comes."""

    costs: Floats
    kinds: NDArray[np.int8]
    froms: Numbers

    def part(self, begin: int, end: int) -> _Lines:
        """Some of the rows."""
        return _Lines(self.costs[begin:end], self.kinds[begin:end], self.froms[begin:end])


def _fullest(nodes: NodeArrays, fit: Fit) -> Numbers:
    """For each node, the first one from which a line that ends there can be set."""
    reach = np.maximum.accumulate(nodes.begins - fit.shrink * nodes.begin_gaps)
    least = nodes.ends - fit.shrink * nodes.end_gaps - fit.measure - TOLERANCE
    found = np.searchsorted(reach, np.maximum.accumulate(least))
    first = np.repeat(nodes.first, nodes.last - nodes.first + 1)
    return np.maximum(np.minimum(found, np.arange(len(found)) - 1), first)


def _ratios(
    nodes: NodeArrays, fit: Fit, froms: Numbers, to: Numbers, most: float
) -> tuple[Floats, Floats, Flags]:
    """The ratio and the width of lines, and whether they are too long."""
    gaps = nodes.end_gaps[to] - nodes.begin_gaps[froms]
    width = nodes.ends[to] - nodes.begins[froms]
    room = fit.measure - width
    give = gaps * fit.shrink
    if fit.justified:
        divisor = np.maximum(gaps, LONE) * fit.stretch
        short = np.flatnonzero(room < 0)
        less = give.ravel()[short]
        divisor.ravel()[short] = np.where(less > 0, less, np.inf)
        ratio = room / divisor
    else:
        ratio = room / fit.zone
    np.clip(ratio, -CAP, most, out=ratio)
    return ratio, width, room + give < -TOLERANCE


def _lines(
    nodes: NodeArrays, fit: Fit, fullest: Numbers, at: Numbers, ways: int, last: bool = False
) -> _Lines:
    """The lines that end at nodes."""
    to = at[:, None]
    froms = fullest[at][:, None] + np.arange(ways)
    beyond = froms >= to
    np.minimum(froms, to - 1, out=froms)
    ratio, width, long = _ratios(nodes, fit, froms, to, 0.0 if last else CAP)
    size = np.abs(ratio)
    bad = LINE + 100.0 * (ratio * ratio * np.minimum(size, 1.0, out=size))
    costs = bad * bad
    costs[long] = OVERFULL
    costs += BEYOND * (ratio > 1.0)
    if last:
        costs += SHORT_LAST * (width < fit.short) + NO_INDENT * (width < fit.indent)
    costs[beyond] = np.inf
    if nodes.hyphens is not None:
        costs[nodes.hyphens[at]] += HYPHEN
    kinds = (ratio >= -0.5).view(np.int8) + (ratio > 0.5).view(np.int8)
    kinds += (ratio > 1.0).view(np.int8)
    return _Lines(costs, kinds, froms)


def _step(
    state: _State, nodes: NodeArrays, fit: Fit, here: Numbers, lines: _Lines, last: bool = False
) -> None:
    """The best way to one node in each of several paragraphs."""
    costs, kinds, froms = lines
    total = costs + state.best[froms]
    if state.row is not None and nodes.hyphens is not None:
        row, hyphen = state.row[froms], nodes.hyphens[here]
        if last:
            total += HYPHEN_BEFORE_LAST * (row > 0)
        elif hyphen.any():
            again = np.where(row < fit.ladder, HYPHENS_IN_A_ROW, FORBIDDEN)
            total += again * (hyphen[:, None] & (row > 0))
    if fit.justified:
        total += UNLIKE * (np.abs(kinds - state.kind[froms]) > 1)
    pick = total.argmin(1) + np.arange(0, total.size, total.shape[1])
    state.best[here] = total.ravel().take(pick)
    state.before[here] = froms.ravel().take(pick)
    state.kind[here] = kinds.ravel().take(pick)
    if state.row is not None and nodes.hyphens is not None:
        state.row[here] = np.where(hyphen, np.minimum(row.ravel().take(pick) + 1, 100), 0)


def _followed(state: _State, nodes: NodeArrays, fit: Fit) -> Paths:
    """The ways to the last nodes, all followed back at once."""
    at, alive = nodes.last.copy(), np.arange(len(nodes.first))
    found, whose = [], []
    while len(alive):
        found.append(at[alive])
        whose.append(alive)
        at[alive] = state.before[at[alive]]
        alive = alive[at[alive] > nodes.first[alive]]
    paragraph = np.concatenate(whose)
    order = np.lexsort((np.concatenate(found), paragraph))
    path, paragraph = np.concatenate(found)[order], paragraph[order]
    count = np.bincount(paragraph, minlength=len(nodes.first))
    begin = np.cumsum(count) - count
    ratio, width, _ = _ratios(nodes, fit, state.before[path], path, CAP)
    ends = path == nodes.last[paragraph]
    ratio[ends] = np.where(width[ends] < fit.indent, CAP, 0.0)
    worst = np.maximum.reduceat(ratio, begin)
    if state.row is None:
        return Paths(path, count, worst, np.zeros(len(count), int))
    return Paths(path, count, worst, np.maximum.reduceat(state.row[path], begin))
