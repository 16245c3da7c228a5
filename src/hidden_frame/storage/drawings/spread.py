"""Repeated and reflected gradients written out, since the engine knows only those that end.

SVG 2, 14.2: a gradient with `spreadMethod` repeat or reflect goes on beyond its ends.  Here its
vector is made longer by whole periods, and its stops are repeated along it.
"""

from __future__ import annotations

import math
from copy import deepcopy
from typing import Any

from lxml import etree

_MOST = 60  # periods to either side
_LINEAR = {"x1": "0%", "y1": "0%", "x2": "100%", "y2": "0%"}
_HREF = "{http://www.w3.org/1999/xlink}href"


def write_out_spreads(root: Any, extent: float) -> bool:
    """Changes the drawing in place; `extent` is its size in user units.

    False where a gradient could not be written out: a repeated one with a focus of its own.
    """
    known = {e.get("id"): e for e in root.iter() if isinstance(e.tag, str) and e.get("id")}
    whole = True
    for element in list(known.values()):
        kind = etree.QName(element).localname
        if kind not in ("linearGradient", "radialGradient"):
            continue
        chain = _chain(element, known)
        method = _attribute(chain, "spreadMethod", "pad")
        stops = next((s for s in map(_stops, chain) if s), [])
        if method not in ("repeat", "reflect") or len(stops) < 2:
            continue
        in_box = _attribute(chain, "gradientUnits", "") != "userSpaceOnUse"
        size = 1.0 if in_box else extent
        done = _linear if kind == "linearGradient" else _radial
        whole = done(element, chain, stops, method == "reflect", size) and whole
    return whole


def _chain(element: Any, known: dict[str, Any]) -> list[Any]:
    """The gradient and those it refers to, the nearest first."""
    chain = [element]
    while len(chain) < 8:
        target = chain[-1].get("href") or chain[-1].get(_HREF) or ""
        other = known.get(target.lstrip("#"))
        if other is None or other in chain:
            break
        chain.append(other)
    return chain


def _attribute(chain: list[Any], name: str, default: str) -> str:
    return next((e.get(name) for e in chain if e.get(name) is not None), default)


def _stops(element: Any) -> list[Any]:
    return [e for e in element if isinstance(e.tag, str) and etree.QName(e).localname == "stop"]


def _number(text: str, size: float) -> float:
    """A coordinate; a share of the whole where it is in per cent."""
    try:
        return float(text[:-1]) / 100 * size if text.endswith("%") else float(text)
    except ValueError:
        return 0.0


def _linear(element: Any, chain: list[Any], stops: list[Any], mirrored: bool, size: float) -> bool:
    x1, y1, x2, y2 = (_number(_attribute(chain, n, d), size) for n, d in _LINEAR.items())
    length = math.hypot(x2 - x1, y2 - y1)
    if length <= 0:
        return True
    dx, dy = x2 - x1, y2 - y1
    # Where the corners of the whole lie along the vector; further where it is turned after.
    more = size if _attribute(chain, "gradientTransform", "") else 0.0
    corners = [(x, y) for x in (-more, size + more) for y in (-more, size + more)]
    along = [((x - x1) * dx + (y - y1) * dy) / length**2 for x, y in corners]
    first = max(math.floor(min(along)), -_MOST)
    end = min(math.ceil(max(along)), _MOST)
    ends = (x1 + first * dx, y1 + first * dy, x1 + end * dx, y1 + end * dy)
    for name, value in zip(_LINEAR, ends, strict=True):
        element.set(name, f"{value:.6f}")
    _repeat(element, stops, first, end, mirrored)
    return True


def _radial(element: Any, chain: list[Any], stops: list[Any], mirrored: bool, size: float) -> bool:
    radius = _number(_attribute(chain, "r", "50%"), size)
    for focus, centre in (("fx", "cx"), ("fy", "cy")):
        at = _attribute(chain, centre, "50%")
        if _number(_attribute(chain, focus, at), size) != _number(at, size):
            return False
    if radius <= 0:
        return True
    periods = min(math.ceil(2 * size / radius) + 1, _MOST)
    element.set("r", f"{radius * periods:.6f}")
    _repeat(element, stops, 0, periods, mirrored)
    return True


def _repeat(element: Any, stops: list[Any], first: int, end: int, mirrored: bool) -> None:
    """The stops of periods `first` to `end` - 1, every other one backwards if mirrored."""
    count = end - first
    made = []
    for period in range(first, end):
        backwards = mirrored and period % 2
        for stop in reversed(stops) if backwards else stops:
            at = min(max(_number(stop.get("offset", "0"), 1.0), 0.0), 1.0)
            at = 1 - at if backwards else at
            copy = deepcopy(stop)
            copy.set("offset", f"{(period - first + at) / count:.7f}")
            made.append(copy)
    for old in _stops(element):
        element.remove(old)
    element.extend(made)
    element.set("spreadMethod", "pad")
