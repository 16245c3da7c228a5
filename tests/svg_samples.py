"""Drawings that show one thing each, and resvg, which judges how they are drawn."""

from __future__ import annotations

import base64
import io

import numpy as np
import resvg_py
from PIL import Image

from hidden_frame.resources import FONTS


def _png():
    buffer = io.BytesIO()
    image = Image.new("RGB", (8, 8), (200, 40, 40))
    image.paste((40, 80, 200), (4, 0, 8, 8))
    image.save(buffer, "PNG")
    return base64.b64encode(buffer.getvalue()).decode()


STAR = "M50 5 L79 95 L2 39 L98 39 L21 95 Z"
DRAWINGS = {
    "linear gradient": """<defs><linearGradient id="g"><stop offset="0" stop-color="#d33"/>
        <stop offset="1" stop-color="#33d"/></linearGradient></defs>
        <rect width="100" height="100" fill="url(#g)"/>""",
    "gradient with a transform": """<defs><linearGradient id="g" gradientTransform="rotate(45)">
        <stop offset=".2" stop-color="#fd0"/><stop offset=".8" stop-color="#084"/></linearGradient>
        </defs><rect x="5" y="5" width="90" height="90" fill="url(#g)"/>""",
    "radial gradient": """<defs><radialGradient id="g" cx=".5" cy=".5" r=".5" fx=".3" fy=".3">
        <stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#136"/></radialGradient>
        </defs><circle cx="50" cy="50" r="45" fill="url(#g)"/>""",
    "gradient in user space": """<defs><linearGradient id="g" gradientUnits="userSpaceOnUse"
        x1="20" y1="0" x2="80" y2="0"><stop offset="0" stop-color="#060"/><stop offset="1"
        stop-color="#ffa"/></linearGradient></defs><path d="M0 0H100V100H0Z" fill="url(#g)"/>""",
    "gradient with opacity": """<defs><linearGradient id="g"><stop offset="0" stop-color="#d33"
        stop-opacity="1"/><stop offset="1" stop-color="#d33" stop-opacity="0"/></linearGradient>
        </defs><rect width="100" height="100" fill="url(#g)"/>""",
    "gradient on a stroke": """<defs><linearGradient id="g"><stop stop-color="#d33"/><stop
        offset="1" stop-color="#33d"/></linearGradient></defs><circle cx="50" cy="50" r="35"
        fill="none" stroke="url(#g)" stroke-width="16"/>""",
    "gradient by reference": """<defs><linearGradient id="a"><stop stop-color="#286"/><stop
        offset="1" stop-color="#fe8"/></linearGradient><linearGradient id="g" href="#a" x1="0"
        x2="0" y1="0" y2="1"/></defs><rect width="100" height="100" fill="url(#g)"/>""",
    "reflected gradient": """<defs><linearGradient id="g" x1="0" x2=".25" spreadMethod="reflect">
        <stop stop-color="#d33"/><stop offset="1" stop-color="#33d"/></linearGradient></defs>
        <rect width="100" height="100" fill="url(#g)"/>""",
    "repeated gradient in user space": """<defs><linearGradient id="g" spreadMethod="repeat"
        gradientUnits="userSpaceOnUse" x1="10" x2="40" y1="10" y2="30"><stop stop-color="#fe8"/>
        <stop offset=".5" stop-color="#286"/><stop offset="1" stop-color="#136"/></linearGradient>
        </defs><rect width="100" height="100" fill="url(#g)"/>""",
    "repeated radial gradient": """<defs><radialGradient id="g" r=".2" spreadMethod="reflect">
        <stop stop-color="#d33"/><stop offset="1" stop-color="#33d"/></radialGradient></defs>
        <rect width="100" height="100" fill="url(#g)"/>""",
    "clip path": f"""<defs><clipPath id="c"><path d="{STAR}"/></clipPath></defs>
        <rect width="100" height="100" fill="#b60" clip-path="url(#c)"/>""",
    "clip path with an even-odd rule": f"""<defs><clipPath id="c"><path d="{STAR}"
        clip-rule="evenodd"/></clipPath></defs><rect width="100" height="100" fill="#06b"
        clip-path="url(#c)"/>""",
    "mask": """<defs><mask id="m"><rect width="100" height="100" fill="#fff"/><circle cx="50"
        cy="50" r="30" fill="#000"/></mask></defs><rect width="100" height="100" fill="#373"
        mask="url(#m)"/>""",
    "soft mask": """<defs><linearGradient id="g"><stop stop-color="#fff"/><stop offset="1"
        stop-color="#000"/></linearGradient><mask id="m"><rect width="100" height="100"
        fill="url(#g)"/></mask></defs><rect width="100" height="100" fill="#733"
        mask="url(#m)"/>""",
    "pattern": """<defs><pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse">
        <rect width="10" height="10" fill="#a33"/><rect x="10" y="10" width="10" height="10"
        fill="#33a"/></pattern></defs><rect width="100" height="100" fill="url(#p)"/>""",
    "turned pattern": """<defs><pattern id="p" width="16" height="16" patternUnits="userSpaceOnUse"
        patternTransform="rotate(30)"><rect width="8" height="16" fill="#484"/></pattern></defs>
        <rect width="100" height="100" fill="url(#p)"/>""",
    "markers": """<defs><marker id="m" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="6"
        markerHeight="6" orient="auto"><path d="M0 0L10 5L0 10z" fill="#c30"/></marker></defs>
        <polyline points="10,80 40,20 70,70 90,15" fill="none" stroke="#222" stroke-width="3"
        marker-start="url(#m)" marker-mid="url(#m)" marker-end="url(#m)"/>""",
    "text": """<text x="8" y="60" font-family="Alegreya Sans" font-size="34"
        fill="#224">Ridge</text>""",
    "text in a missing font": """<text x="50" y="60" text-anchor="middle"
        font-family="Gone Grotesk, Alegreya Sans" font-size="30" font-weight="bold">Owl</text>""",
    "text with spans and a turn": """<text transform="rotate(-20 50 50)" x="5" y="60"
        font-family="Spectral" font-size="26">a<tspan fill="#c33" font-style="italic">bc</tspan>d
        </text>""",
    "nested drawing": """<svg x="20" y="20" width="60" height="60" viewBox="0 0 10 10"><rect
        width="10" height="10" fill="#ddd"/><circle cx="5" cy="5" r="4" fill="#639"/></svg>""",
    "use of a symbol": """<defs><symbol id="s" viewBox="0 0 10 10"><path d="M0 10L5 0L10 10Z"
        fill="#275"/></symbol></defs><use href="#s" x="5" y="5" width="40" height="40"/><use
        href="#s" x="50" y="50" width="45" height="45" opacity=".5"/>""",
    "use with a transform": """<defs><g id="a"><rect width="20" height="20" fill="#c60"/></g></defs>
        <use href="#a" transform="translate(50 10) rotate(30) scale(1.5)"/>""",
    "embedded picture": f"""<image x="10" y="10" width="80" height="80"
        image-rendering="optimizeSpeed" href="data:image/png;base64,{_png()}"/>""",
    "classes": """<style>.a{fill:#a44;stroke:#222;stroke-width:4px} rect.b{fill:#4a4;opacity:.6}
        #c{fill:none;stroke:#44a;stroke-width:6}</style><circle class="a" cx="35" cy="35" r="25"/>
        <rect class="b" x="40" y="40" width="50" height="50"/><path id="c" d="M10 90L90 10"/>""",
    "even-odd": f"""<path d="{STAR}" fill="#940" fill-rule="evenodd"/>""",
    "nonzero": f"""<path d="{STAR}" fill="#049"/>""",
    "dashes": """<path d="M10 20H90M10 50H90M10 80H90" stroke="#333" stroke-width="8"
        stroke-dasharray="14 6 3 6" stroke-dashoffset="5"/>""",
    "caps and joins": """<g fill="none" stroke="#552" stroke-width="12"><path d="M15 85L50 20L85 85"
        stroke-linejoin="round" stroke-linecap="round"/></g>""",
    "group opacity": """<g opacity=".5"><rect x="10" y="10" width="55" height="55" fill="#d22"/>
        <rect x="35" y="35" width="55" height="55" fill="#22d"/></g>""",
    "blend mode": """<rect width="70" height="70" fill="#ec4"/><rect x="30" y="30" width="70"
        height="70" fill="#4ce" style="mix-blend-mode:multiply"/>""",
    "arcs and curves": """<path d="M10 50A40 30 20 1 1 90 50C80 90 60 90 50 70S20 60 10 50Z"
        fill="#8a4" stroke="#230" stroke-width="3"/>""",
}  # fmt: skip
ASPECTS = {
    "aspect ratio kept": 'width="120" height="80" viewBox="0 0 100 100"',
    "aspect ratio to a side": 'width="60" height="100" viewBox="0 0 100 100" '
    'preserveAspectRatio="xMinYMax meet"',
    "stretched": 'width="120" height="60" viewBox="0 0 100 100" preserveAspectRatio="none"',
}
WHOLE = {n: ('width="100" height="100" viewBox="0 0 100 100"', d) for n, d in DRAWINGS.items()}
WHOLE |= {n: (a, DRAWINGS["nested drawing"]) for n, a in ASPECTS.items()}
SCALE = 3
PX = 0.75  # points


def svg(name):
    attributes, body = WHOLE[name]
    return f'<svg xmlns="http://www.w3.org/2000/svg" {attributes}>{body}</svg>'.encode()


def by_resvg(data):
    # Each font of ours is handed over; nothing is taken from the machine.
    png = resvg_py.svg_to_bytes(
        svg_string=data.decode(), zoom=SCALE, skip_system_fonts=True, font_dirs=[str(FONTS)],
        background="white",
    )  # fmt: skip
    return np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGB")).astype(int)


def differing(one, other):
    rows, columns = (min(a, b) for a, b in zip(one.shape[:2], other.shape[:2], strict=True))
    off = np.abs(one[:rows, :columns] - other[:rows, :columns]).max(axis=2)
    return (off > 48).mean()


def near(name):
    """The share of pixels that may differ; edges of many small fields, and steps within a
    gradient, are smoothed by either in its own way."""
    return 0.035 if "pattern" in name or "repeated" in name else 0.02
