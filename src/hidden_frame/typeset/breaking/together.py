"""Lines of many paragraphs of one look chosen at once, as a long text needs it when it is laid
out for the first time.

What it gives is what `total_fit.best_breaks` gives, paragraph by paragraph; a test holds that.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain
from typing import NamedTuple

import numpy as np

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.demerits import Fit
from hidden_frame.typeset.breaking.nodes import Ends, divided_all
from hidden_frame.typeset.breaking.paths import (
    Flags,
    Floats,
    NodeArrays,
    Numbers,
    Paths,
    best_paths,
)
from hidden_frame.typeset.breaking.total_fit import POOR, WAYS, WAYS_DIVIDED
from hidden_frame.typeset.hyphenation import Dividing
from hidden_frame.typeset.segments import HYPHENS, Tokens
from hidden_frame.typeset.shaping import Setting


class _Text(NamedTuple):
    """The tokens of several paragraphs: `first` is the number of each one's first, with the
    number behind the last one at the end."""

    flat: list[str]
    first: Numbers
    spaced: Flags
    shut: Flags | None  # behind which no line ends; None if there are none
    starts: Floats
    ends: Floats
    gaps: Numbers


def breaks_together(
    texts: Sequence[Tokens],
    setting: Setting,
    fit: Fit,
    indent: float,
    language: Dividing | None,
) -> list[Ends | None]:
    """Where the lines of each paragraph end; None where it is to be looked at by itself."""
    text = _text(texts, setting)
    token = np.arange(len(text.flat))
    if text.shut is not None:
        token = token[~text.shut]
    nodes = _nodes(text, token, None, None, indent)
    paths = best_paths(nodes, fit, WAYS)
    found: list[Ends | None] = _ends(text, nodes, paths, token, None)
    _alone(found, paths, fit)
    for n in np.flatnonzero(_too_wide(nodes, fit, indent)).tolist():
        found[n] = None
    if language is None or not fit.hyphens:
        return found
    poor = [int(n) for n in np.flatnonzero(paths.worst > POOR) if found[n] is not None]
    if poor:
        again = _divided_ends([texts[n] for n in poor], setting, fit, indent, language)
        for n, ends in zip(poor, again, strict=True):
            found[n] = ends
    return found


def first_fit_together(
    texts: Sequence[Tokens], setting: Setting, fit: Fit, indent: float
) -> list[Ends | None]:
    """The same by first fit, without divided words: line after line of all paragraphs at once
    (`first_fit.Breaker`)."""
    text = _text(texts, setting)
    widest = np.maximum.reduceat(text.ends - text.starts, text.first[:-1])
    begin, end = text.first[:-1].copy(), text.first[1:]
    alive, room = np.arange(len(texts)), fit.measure - indent
    found, whose = [], []
    while len(alive):
        at, stop = begin[alive], end[alive]
        limit = text.starts[at] + room
        last = np.searchsorted(text.ends, limit + TOLERANCE, side="right") - 1
        last = np.clip(last, at - 1, stop - 1)
        more = np.minimum(last + 1, stop - 1)
        tight = text.ends[more] <= limit + (more - at) * fit.shrink
        last = np.where(tight & fit.justified & (last >= at), more, np.maximum(last, at))
        found.append(last - text.first[alive])
        whose.append(alive)
        begin[alive] = last + 1
        alive = alive[last + 1 < stop]
        room = fit.measure
    order = np.argsort(np.concatenate(whose), kind="stable")
    tokens = np.concatenate(found)[order].tolist()
    counts = np.bincount(np.concatenate(whose), minlength=len(texts))
    fits_in = widest <= min(fit.measure, fit.measure - indent) + TOLERANCE
    return _cut_up(tokens, [0] * len(tokens), counts.tolist(), fits_in.tolist())


def _cut_up(
    tokens: list[int], used: list[int], counts: list[int], good: list[bool]
) -> list[Ends | None]:
    """Ends a paragraph; None for those that are not good."""
    found: list[Ends | None] = []
    at = 0
    for count, fine in zip(counts, good, strict=True):
        found.append(Ends(tokens[at : at + count], used[at : at + count]) if fine else None)
        at += count
    return found


def _divided_ends(
    texts: Sequence[Tokens], setting: Setting, fit: Fit, indent: float, language: Dividing
) -> list[Ends | None]:
    """The same with words divided."""
    text = _text(texts, setting)
    token, used, widths = _divided_nodes(text, setting, language)
    nodes = _nodes(text, token, used, widths, indent)
    paths = best_paths(nodes, fit, WAYS_DIVIDED)
    found: list[Ends | None] = _ends(text, nodes, paths, token, used)
    _alone(found, paths, fit)
    return found


def _alone(found: list[Ends | None], paths: Paths, fit: Fit) -> None:
    """Ladders of hyphens are few: each such paragraph is looked at by itself."""
    for n in np.flatnonzero(paths.ladder > fit.ladder).tolist():
        found[n] = None


def _text(texts: Sequence[Tokens], setting: Setting) -> _Text:
    flat = list(chain.from_iterable([t.parts for t in texts]))
    first = np.cumsum([0, *(len(t.parts) for t in texts)])
    spaced = np.ones(len(flat), bool)
    for n, text in enumerate(texts):
        for glued in text.glued:
            spaced[first[n] + glued] = False
    width = np.array(setting.widths(flat))
    ends = np.cumsum(width + setting.space * spaced)
    return _Text(flat, first, spaced, _shut(texts, first), ends - width, ends, np.cumsum(spaced))


def _shut(texts: Sequence[Tokens], first: Numbers) -> Flags | None:
    if not any(t.kept for t in texts):
        return None
    shut = np.zeros(int(first[-1]), bool)
    for at, text in zip(first.tolist(), texts, strict=False):
        shut[[at + n - 1 for n in text.kept]] = True
    return shut


def _divided_nodes(
    text: _Text, setting: Setting, language: Dividing
) -> tuple[Numbers, Numbers, Floats]:
    """Nodes behind tokens and within words: the token of each, the characters before it (0
    behind the token), and the widths of the word's two parts."""
    words = list(set(text.flat))
    number = dict(zip(words, range(len(words)), strict=True))
    word = np.fromiter(map(number.__getitem__, text.flat), np.int64, len(text.flat))
    places = divided_all(setting, words, language)
    count = np.array([len(p) for p in places])
    flat = np.array([(0, 0.0, 0.0), *chain.from_iterable(places)])
    offset = np.cumsum(count) - count + 1
    apart = text.spaced.copy()
    apart[text.first[:-1]] = True
    many = np.where(apart, count[word], 0)
    token = np.repeat(np.arange(len(word)), many + 1)
    rank = np.arange(len(token)) - np.repeat(np.cumsum(many + 1) - many - 1, many + 1)
    at = np.where(rank < many[token], offset[word[token]] + rank, 0)
    used, widths = flat[at, 0].astype(np.int64), flat[at, 1:]
    if text.shut is not None:
        open_ = ~(text.shut[token] & (used == 0))
        return token[open_], used[open_], widths[open_]
    return token, used, widths


def _nodes(
    text: _Text, token: Numbers, used: Numbers | None, widths: Floats | None, indent: float
) -> NodeArrays:
    """Nodes from the tokens that they stand behind or in."""
    count = len(text.first) - 1
    ends, begins = text.ends[token], np.append(text.starts, text.ends[-1])[token + 1]
    end_gaps, begin_gaps = text.gaps[token], np.append(text.gaps, text.gaps[-1])[token + 1]
    if used is not None and widths is not None:
        within = np.flatnonzero(used)
        ends[within] = text.starts[token[within]] + widths[within, 0]
        begins[within] = text.ends[token[within]] - widths[within, 1]
        begin_gaps[within] = end_gaps[within]
    # A paragraph's first node stands before those of its tokens.
    where = np.searchsorted(token, text.first[:-1])
    first = where + np.arange(count)
    last = np.append(first[1:], len(token) + count) - 1
    starts, gaps = text.starts[text.first[:-1]], text.gaps[text.first[:-1]]
    return NodeArrays(
        first,
        last,
        np.insert(ends, where, starts),
        np.insert(end_gaps, where, gaps),
        np.insert(begins, where, starts - indent),
        np.insert(begin_gaps, where, gaps),
        _hyphens(text, token, used, where),
    )


def _hyphens(text: _Text, token: Numbers, used: Numbers | None, where: Numbers) -> Flags | None:
    """Where a line ends with a hyphen: a divided word's, or a word's own."""
    if used is None and text.spaced.all():
        return None
    glued = np.append(~text.spaced[1:], False)
    own = np.zeros(len(text.flat), bool)
    own[np.flatnonzero(glued)] = [text.flat[n][-1:] in HYPHENS for n in np.flatnonzero(glued)]
    found = own[token]
    if used is not None:
        found = (found & (used == 0)) | (used > 0)
    return np.insert(found, where, False)


def _too_wide(nodes: NodeArrays, fit: Fit, indent: float) -> Flags:
    """Paragraphs in which something that can't be broken is wider than the narrowest line."""
    wide = nodes.ends[1:] - nodes.begins[:-1] > fit.measure - max(indent, 0.0) + TOLERANCE
    wide[nodes.first] |= nodes.ends[nodes.first + 1] - nodes.begins[nodes.first] > fit.measure
    wide[nodes.last[:-1]] = False
    return np.logical_or.reduceat(np.append(wide, False), nodes.first)


def _ends(
    text: _Text, nodes: NodeArrays, paths: Paths, token: Numbers, used: Numbers | None
) -> list[Ends | None]:
    """What the ways say of tokens."""
    paragraph = np.repeat(np.arange(len(paths.counts)), paths.counts)
    at = paths.nodes - paragraph - 1  # each paragraph has one node more than tokens
    tokens = (token[at] - text.first[paragraph]).tolist()
    parts = [0] * len(tokens) if used is None else used[at].tolist()
    return _cut_up(tokens, parts, paths.counts.tolist(), [True] * len(paths.counts))
