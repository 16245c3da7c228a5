"""The almanac's pictures, drawn here: logo and seal, a night sky, a pencil sketch."""

from __future__ import annotations

import io
from functools import cache

import numpy as np
from PIL import Image

LOGO = b"""<svg xmlns="http://www.w3.org/2000/svg" width="120" height="96" viewBox="0 0 120 96">
<path fill="#e0b354" d="M60 2 L63.4 12.6 L74 16 L63.4 19.4 L60 30 L56.6 19.4 L46 16 L56.6 12.6 Z"/>
<path fill="#f4efe4" d="M30 70 A30 30 0 0 1 90 70 Z"/>
<path fill="#14213a" d="M55 41 L65 41 L65 70 L55 70 Z"/>
<path fill="#f4efe4" d="M24 73 L96 73 L96 80 L24 80 Z"/>
<path fill="none" stroke="#e0b354" stroke-width="2.5"
 d="M4 92 L22 84 L40 90 L60 84 L80 91 L98 84 L116 92"/>
</svg>
"""

SEAL = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100" viewBox="0 0 100 100">
<circle cx="50" cy="50" r="46" fill="none" stroke="#a8512f" stroke-width="3"/>
<circle cx="50" cy="50" r="38" fill="none" stroke="#a8512f" stroke-width="1"/>
<path fill="#a8512f" d="M50 18 L57 42 L82 50 L57 58 L50 82 L43 58 L18 50 L43 42 Z"/>
</svg>
"""


@cache
def night_sky(seed: int = 12, width: int = 2400, height: int = 1800) -> bytes:
    """A JPEG of stars over a ridge with a dome, the same for the same seed."""
    rng = np.random.default_rng(seed)
    grain = width // 1200  # pixels to a faint star
    y = np.linspace(0, 1, height)[:, None, None]
    top, bottom = np.array([13, 20, 40.0]), np.array([86, 92, 138.0])
    sky = top + (bottom - top) * y**1.6 + np.zeros((height, width, 3))
    rows, columns = np.mgrid[0:height, 0:width]
    band = np.exp(-(((rows - height * 0.95 + columns * 0.62) / (height * 0.16)) ** 2))
    sky += band[:, :, None] * np.array([34, 32, 44.0])
    for _ in range(900):
        cx, cy = rng.integers(2, width // grain - 2), rng.integers(2, int(height // grain * 0.82))
        light = rng.pareto(2.2) * 60 + 40
        at, down = cx * grain, cy * grain
        sky[down : down + grain, at : at + grain] += light
        if light > 130:
            far = 2 * grain
            sky[down - grain : down + far, at - grain : at + far] += light * 0.45
    ridge = _ridge(rng, width, height)
    ground = rows > ridge[None, :]
    dome_x, dome_y, radius = width * 0.68, float(ridge[int(width * 0.68)]) + 8, height * 0.07
    dome = ((columns - dome_x) ** 2 + (rows - dome_y) ** 2 < radius**2) & (rows <= dome_y)
    slit = dome & (np.abs(columns - dome_x) < radius * 0.12)
    sky[ground] = (10, 15, 27)
    sky[dome] = (36, 43, 66)
    sky[slit] = (224, 179, 84)
    image = Image.fromarray(np.clip(sky, 0, 255).astype(np.uint8))
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=86)
    return buffer.getvalue()


def _ridge(rng: np.random.Generator, width: int, height: int) -> np.ndarray:
    """The height of a skyline at each column."""
    x = np.linspace(0, 1, width)
    line = np.full(width, 0.84)
    for n in range(1, 7):
        line += rng.normal(0, 0.03 / n) * np.sin(2 * np.pi * (n * x * 1.3 + rng.random()))
    return np.asarray(line * height)


def comet_sketch(width: int = 900, height: int = 600) -> bytes:
    """A TIFF of a comet in pencil, scanned on white paper, at 300 pixels to the inch."""
    rng = np.random.default_rng(4)
    rows, columns = np.mgrid[0:height, 0:width].astype(float)
    x, y = columns - width * 0.74, rows - height * 0.34
    along = -x * 0.86 + y * 0.5  # down the tail, to the lower left
    across = x * 0.5 + y * 0.86
    spread = 26 + np.clip(along, 0, None) * 0.16
    tail = np.exp(-((across / spread) ** 2)) * np.exp(-np.clip(along, 0, None) / 260) * (along > 0)
    head = np.exp(-(x**2 + y**2) / 620)
    shade = np.clip(tail * 0.62 + head * 1.1, 0, 0.92)
    strokes = 0.5 + 0.5 * np.sin((across * 0.9 + rng.normal(0, 0.6, (height, width))) * 1.1)
    grain = shade * (0.55 + 0.45 * strokes)
    for _ in range(40):
        sx, sy = rng.uniform(0, width), rng.uniform(0, height)
        dot = np.exp(-((columns - sx) ** 2 + (rows - sy) ** 2) / rng.uniform(3, 9))
        grain = np.maximum(grain, dot * 0.75)
    paper = np.clip(255 * (1 - grain * 0.85), 0, 255).astype(np.uint8)
    paper[paper > 249] = 255
    buffer = io.BytesIO()
    Image.fromarray(paper).convert("RGB").save(buffer, "TIFF", dpi=(300, 300))
    return buffer.getvalue()
