"""Lines chosen over a whole paragraph, so that the worst of them is as good as can be.

Knuth and Plass, “Breaking Paragraphs into Lines”, Software: Practice and Experience 11 (1981).
The best way to each node is the best way to a node before it, and a line; of the nodes before
it those count from which a line can be set at all, the fullest line first.  There is always
one, so that a narrow column is set as well as it can be instead of not at all.

Words are divided only where lines without divided ones would be poor, as in TeX's two passes.
"""

from __future__ import annotations

from hidden_frame.typeset.breaking.cut import TOLERANCE, Cut
from hidden_frame.typeset.breaking.demerits import (
    BEYOND,
    CAP,
    FORBIDDEN,
    HYPHEN,
    HYPHEN_BEFORE_LAST,
    HYPHENS_IN_A_ROW,
    LINE,
    LONE,
    OVERFULL,
    UNLIKE,
    Fit,
    short_last,
)
from hidden_frame.typeset.breaking.fullest import fullest
from hidden_frame.typeset.breaking.ladders import path_by_rows
from hidden_frame.typeset.breaking.nodes import Break, Nodes, add_nodes, nodes_of, parts_of
from hidden_frame.typeset.breaking.resume import Ways, begun, keep, resumed
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Word

# How many ways to a node are tried, from the fullest line on: with four words fewer than fit,
# a line is loose beyond use.
WAYS, WAYS_DIVIDED = 4, 7
POOR = 1.0  # the ratio beyond which words are divided: plain TeX's pretolerance, 100


def total_fit(segment: Segment, fit: Fit, indent: float, at: int = 0, skip: int = 0) -> list[Cut]:
    """The cuts of a segment from a token on, of which `skip` characters are left out; the first
    line is indented by `indent` points more than the others."""
    head = _head(segment, at, skip)
    breaks = best_breaks(segment, fit, indent, at, head)
    return cuts_of(segment, breaks, at, skip, fit.measure)


def best_breaks(
    segment: Segment, fit: Fit, indent: float, at: int = 0, head: Word | None = None,
    until: int | None = None,
) -> list[Break]:  # fmt: skip
    """Where the lines end, as far as the token `until` if it is given."""
    whole = at == 0 and head is None and until is None

    def opened(divide: bool) -> tuple[Nodes, Ways]:
        if whole:
            return _opened(segment, fit, indent, divide)
        return nodes_of(segment, at, head, indent, fit.measure, divide, until), begun()

    nodes, ways = opened(False)
    divides = segment.hyphenated and fit.hyphens > 0
    path, worst = ([], CAP) if divides and not may_be_good(nodes, fit) else best_path(
        nodes, fit, WAYS, ways
    )  # fmt: skip
    if worst > POOR and divides:
        nodes, ways = opened(True)
        path, _ = best_path(nodes, fit, WAYS_DIVIDED, ways)
    if ladder(nodes, path) > fit.ladder:
        path = path_by_rows(nodes, fit, WAYS_DIVIDED)
    return [nodes.breaks[n] for n in path]


def _opened(segment: Segment, fit: Fit, indent: float, divide: bool) -> tuple[Nodes, Ways]:
    """The nodes of a whole segment, and the ways that are known from before a change of it."""
    known = resumed(segment, fit, indent, divide)
    if known is None:
        nodes, ways = nodes_of(segment, 0, None, indent, fit.measure, divide), begun()
    else:
        nodes, ways, token = known
        add_nodes(nodes, segment, 0, token, None, fit.measure, divide)
    keep(segment, fit, indent, divide, nodes, ways)
    return nodes, ways


def may_be_good(nodes: Nodes, fit: Fit) -> bool:
    """Whether there is any way to the end, of those that `best_path` looks at, without a poor line:
    for a long paragraph there hardly ever is, which is seen in a tenth of the time."""
    ends, gaps, begins, begin_gaps, *_ = nodes
    measure, _, stretch, justified, zone, *_ = fit
    count = len(ends)
    reached = bytearray(count)
    reached[0] = 1
    latest = 0  # the latest node that is reached
    for n, first in enumerate(fullest(nodes, fit), 1):
        if latest < first:
            return False
        end, gap = ends[n], gaps[n]
        last = n == count - 1
        for k in range(first, n if last else min(n, first + WAYS)):
            if reached[k]:
                room = measure - (end - begins[k])
                # `best_path`'s ratio, to the bit.
                by = (
                    room / (((gap - begin_gaps[k]) or LONE) * stretch) if justified else room / zone
                )
                if last or room < 0 or by <= POOR:
                    reached[n], latest = 1, n
                    break
    return reached[count - 1] == 1


def ladder(nodes: Nodes, path: list[int]) -> int:
    """How many lines in a row end with a hyphen, at most."""
    most = row = 0
    for node in path:
        row = row + 1 if nodes.hyphens[node] else 0
        most = max(most, row)
    return most


def best_path(
    nodes: Nodes, fit: Fit, ways: int, known: Ways | None = None
) -> tuple[list[int], float]:
    """The nodes at which lines end, and the ratio of the loosest line (the `CAP` if the last one is
    too short); the ways `known` to the
    first nodes become those to all.

    One best way to each node is kept, whatever stands before it: where that ends in a ladder of
    hyphens, `best_breaks` looks once more, by `ladders.path_by_rows`.
    """
    ends, gaps, begins, begin_gaps, _, hyphens = nodes
    count = len(ends)
    best, before, kind, ratios, row, firsts = begun() if known is None else known
    measure, shrink, stretch, justified, zone, *_ = fit
    most = fit.ladder
    begin = len(best)
    for n, first in enumerate(fullest(nodes, fit, begin, firsts[-1]), begin):
        end, gap = ends[n], gaps[n]
        last, hyphen = n == count - 1, hyphens[n]
        stop = n if last else min(n, first + ways)
        chosen, least, chosen_kind, ratio = -1, 0.0, 1, 0.0
        for k in range(first, stop):
            # `demerits.ratio` and `cost`, written out: this is done for every line there may be.
            spaces = gap - begin_gaps[k]
            width = end - begins[k]
            room, give = measure - width, spaces * shrink
            if not justified:
                by = room / zone
            elif room < 0:
                by = room / give if give else 0.0
            else:
                by = room / ((spaces or LONE) * stretch)
            by = 0.0 if last and by > 0 else CAP if by > CAP else -CAP if by < -CAP else by
            bad = LINE + 100.0 * (by * by * (abs(by) if -1.0 < by < 1.0 else 1.0))
            total = bad * bad if room + give >= -TOLERANCE else OVERFULL
            if by > 1.0:
                total += BEYOND
            if last:
                total += short_last(fit, width)
            if hyphen:
                total += HYPHEN
            total += best[k]
            if row[k]:
                if last:
                    total += HYPHEN_BEFORE_LAST
                if hyphen:
                    total += HYPHENS_IN_A_ROW if row[k] < most else FORBIDDEN
            tight = 0 if by < -0.5 else 1 if by <= 0.5 else 2 if by <= 1.0 else 3
            if justified and not -1 <= tight - kind[k] <= 1:
                total += UNLIKE
            if chosen < 0 or total < least:
                chosen, least, chosen_kind, ratio = k, total, tight, by
                if last and width < fit.indent:
                    ratio = CAP  # as poor as can be: words are divided to mend it
        best.append(least)
        before.append(chosen)
        kind.append(chosen_kind)
        ratios.append(ratio)
        row.append(row[chosen] + 1 if hyphen else 0)
        firsts.append(first)
    return _path(before, ratios)


def _path(before: list[int], ratios: list[float]) -> tuple[list[int], float]:
    path, n = [], len(before) - 1
    while n > 0:
        path.append(n)
        n = before[n]
    return path[::-1], max((ratios[n] for n in path), default=0.0)


def cuts_of(segment: Segment, breaks: list[Break], at: int, skip: int, measure: float) -> list[Cut]:
    """What each line takes."""
    cuts = []
    head = _head(segment, at, skip)
    for token, used, follows in breaks:
        tail, last = None, token
        if used:
            tail, last = parts_of(segment.words[token], used)[0], token - 1
            if skip and token == at:  # what is left of a word, divided once more
                text, head = segment.words[token].text[skip:used], None
                tail = segment.words[token].like(text.replace(SOFT_HYPHEN, "") + "-")
        elif follows == len(segment.words):  # spaces at the very end keep their place
            start = segment.ends[at] - (head or segment.words[at]).width
            while last + 1 < follows and segment.ends[last + 1] - start <= measure:
                last += 1
        cuts.append(Cut(at, last, head, tail, skip, used))
        at, skip = follows, used
        head = _head(segment, at, skip) if used else None
    return cuts


def _head(segment: Segment, at: int, skip: int) -> Word | None:
    return parts_of(segment.words[at], skip)[1] if skip else None
