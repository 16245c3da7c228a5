"""The Markdown parser, with its work bounded: it is quadratic in brackets that open nothing, and
leaves out what is nested deeper than it goes.

Here such brackets stay as they were typed once they have cost more than the text is long, and what
is nested deeper keeps its signs; both are counted.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from typing import Any

from hidden_frame.storage.manuscripts.clock import Clock
from hidden_frame.storage.manuscripts.manuscript import LEVELS

DEEPEST = 50  # levels of quotations and lists in each other
_BRACKETS = ("link", "image", "footnote_inline", "footnote_ref")
_HOLDERS = ("blockquote", "list")
_FREE, _TIMES = 50_000, 4  # tokens that brackets may cost in vain, and how many for a character

_Rule = Callable[..., bool]


class Parsed:
    """The tokens of a text; `left` counts what was left as it was typed."""

    def __init__(self, text: str) -> None:
        from markdown_it import MarkdownIt
        from mdit_py_plugins.footnote import footnote_plugin

        self.left: Counter[str] = Counter()
        self._clock = Clock()
        self._steps = self._in_vain = 0
        self._most = _FREE + _TIMES * len(text)
        parser = MarkdownIt("commonmark", {"html": False, "maxNesting": DEEPEST + 10})
        parser.enable(["table", "strikethrough"]).use(footnote_plugin)
        self._bound(parser)
        self.tokens: list[Any] = parser.parse(text)

    def _bound(self, parser: Any) -> None:
        inline, block = parser.inline, parser.block
        for rule in _rules(inline.ruler):
            if rule.name in _BRACKETS:
                rule.fn = self._bracket(rule.fn)
        for rule in _rules(block.ruler):
            rule.fn = self._holder(rule.fn) if rule.name in _HOLDERS else self._timed(rule.fn)
        skip = inline.skipToken

        def counted(state: Any) -> None:
            self._steps += 1
            if not self._steps % 1024:
                self._clock.look()
            skip(state)

        inline.skipToken = counted

    def _bracket(self, rule: _Rule) -> _Rule:
        def bounded(state: Any, silent: bool) -> bool:
            if self._in_vain > self._most:
                return False
            before = self._steps
            found = rule(state, silent)
            if not found:
                self._in_vain += self._steps - before
                if self._in_vain > self._most:
                    self.left["links among brackets"] += 1
            return found

        return bounded

    def _holder(self, rule: _Rule) -> _Rule:
        def bounded(state: Any, start: int, end: int, silent: bool) -> bool:
            self._clock.look()
            if state.level < DEEPEST:
                return rule(state, start, end, silent)
            if not silent and rule(state, start, end, True):
                self.left[LEVELS] += 1
            return False

        return bounded

    def _timed(self, rule: _Rule) -> _Rule:
        def timed(state: Any, start: int, end: int, silent: bool) -> bool:
            self._clock.look()
            return rule(state, start, end, silent)

        return timed


def _rules(ruler: Any) -> list[Any]:
    """The rules of a parser's part, which reads them anew when it is used next."""
    ruler.__cache__ = None
    rules: list[Any] = ruler.__rules__
    return rules
