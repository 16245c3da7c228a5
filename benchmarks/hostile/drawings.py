"""Drawings that try to read what lies outside of them, or to exhaust the machine.

After the OWASP XML External Entity Prevention Cheat Sheet (entities, parameter entities, DTDs,
XInclude, expansion), and W3C's SVG Security notes and SVG Integration, 2.2 (images, uses, fonts,
style sheets, scripts, foreign objects, animations that set references).
"""

# Attacks are read best as they are written.
# ruff: noqa: E501
from __future__ import annotations

import base64
import codecs
from collections.abc import Iterator
from typing import NamedTuple

_SPACES = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
_BOX = 'width="40" height="40" viewBox="0 0 40 40"'


class Attack(NamedTuple):
    """A drawing, and what it tries."""

    name: str
    data: bytes


def svg(body: str, before: str = "", more: str = "") -> bytes:
    return f"{before}<svg {_SPACES} {_BOX} {more}>{body}</svg>".encode()


def attacks(folder: str, url: str) -> Iterator[Attack]:
    """Forty drawings that name files of a folder and addresses of a server."""
    png, pipe = f"{folder}/canary.png", f"{folder}/pipe"
    rect = '<rect width="9" height="9"/>'
    bodies = {
        "image by path": f'<image href="{png}" width="9" height="9"/>',
        "image by xlink": f'<image xlink:href="{png}" width="9" height="9"/>',
        "image by file url": f'<image href="file://{png}" width="9" height="9"/>',
        "image by network": f'<image href="{url}/a.png" width="9" height="9"/>',
        "image by protocol-relative address": f'<image href="{url[5:]}/a.png" width="9" height="9"/>',
        "image from a pipe": f'<image href="{pipe}" width="9" height="9"/>',
        "image by another prefix": f'<image xmlns:q="http://www.w3.org/1999/xlink" q:href="{png}"/>',
        "image with spaces before": f'<image href="  \n{png}" width="9" height="9"/>',
        "image with an escaped path": f'<image href="{png.replace("/", "&#47;")}" width="9" height="9"/>',
        "use of a file": f'<use href="{folder}/canary.svg#a"/>',
        "use from the network": f'<use href="{url}/a.svg#a"/>',
        "filter image": f'<filter id="f"><feImage href="{png}"/></filter><rect filter="url(#f)" '
                        'width="9" height="9"/>',
        "filter image from a pipe": f'<filter id="f"><feImage href="{pipe}"/></filter><rect '
                                    'filter="url(#f)" width="9" height="9"/>',
        "fill elsewhere": f'<rect width="9" height="9" fill="url({url}/a.svg#g)"/>',
        "fill elsewhere in style": f'<rect width="9" height="9" style="fill:url(\'{url}/a#g\')"/>',
        "mask elsewhere": f'<rect width="9" height="9" mask="url({folder}/canary.svg#a)"/>',
        "css import": f"<style>@import url({url}/a.css);</style>{rect}",
        "css import in capitals": f"<style>@IMPORT '{url}/a.css';</style>{rect}",
        "css import escaped": f"<style>@\\69mport '{url}/a.css';</style>{rect}",
        "css address escaped": f"<style>rect{{fill:u\\72l({url}/a#g)}}</style>{rect}",
        "css font face": f"<style>@font-face{{font-family:q;src:url({url}/q.ttf)}}</style>"
                         '<text font-family="q" y="20">q</text>',
        "css font face by path": f"<style>@font-face{{font-family:q;src:url({folder}/canary.ttf)}}"
                                 '</style><text font-family="q" y="20">q</text>',
        "script": f"<script>fetch('{url}/a')</script>{rect}",
        "script elsewhere": f'<script href="{url}/a.js"/>{rect}',
        "handler": f'<rect width="9" height="9" onload="fetch(\'{url}/a\')"/>',
        "foreign object": f'<foreignObject width="9" height="9"><img '
                          f'xmlns="http://www.w3.org/1999/xhtml" src="{url}/a"/></foreignObject>',
        "animated reference": f'<image width="9" height="9"><set attributeName="href" to="{png}"/>'
                              "</image>",
        "xinclude": f'<xi:include xmlns:xi="http://www.w3.org/2001/XInclude" '
                    f'href="{folder}/canary.txt" parse="text"/>{rect}',
        "drawing in a drawing": '<image width="9" height="9" href="data:image/svg+xml;base64,'
                                f'{base64.b64encode(svg(f"<image href={png!r}/>")).decode()}"/>',
        "drawing called a picture": '<image width="9" height="9" href="data:image/png;base64,'
                                    f'{base64.b64encode(svg(f"<image href={png!r}/>")).decode()}"/>',
    }  # fmt: skip
    for name, body in bodies.items():
        yield Attack(name, svg(body))
    doctypes = {
        "entity of a file": f'<!DOCTYPE svg [<!ENTITY a SYSTEM "{folder}/canary.txt">]>',
        "entity of an address": f'<!DOCTYPE svg [<!ENTITY a SYSTEM "{url}/a">]>',
        "entity of a pipe": f'<!DOCTYPE svg [<!ENTITY a SYSTEM "{pipe}">]>',
        "external dtd": f'<!DOCTYPE svg SYSTEM "{url}/a.dtd">',
        "external dtd by path": f'<!DOCTYPE svg SYSTEM "{folder}/canary.dtd">',
        "parameter entity": f'<!DOCTYPE svg [<!ENTITY % p SYSTEM "{folder}/canary.dtd"> %p;]>',
        "style sheet": f'<?xml-stylesheet href="{url}/a.css"?>',
    }  # fmt: skip
    for name, before in doctypes.items():
        yield Attack(name, svg('<text y="20">&a;</text>' if "entity of" in name else rect, before))
    other = svg('<text y="20">&a;</text>', doctypes["entity of a file"]).decode()
    declared = f'<?xml version="1.0" encoding="UTF-16"?>{other}'
    yield Attack("entity in UTF-16", codecs.BOM_UTF16_LE + declared.encode("utf-16-le"))
    yield Attack(
        "entity in UTF-7", b'<?xml version="1.0" encoding="UTF-7"?>' + other.encode("utf-7")
    )
    yield Attack("image in EBCDIC", f'<?xml version="1.0" encoding="cp037"?>{bodies["image by path"]}'
                 .encode("cp037"))  # fmt: skip


def bombs() -> Iterator[Attack]:
    """Small drawings that would take hours, or all memory."""
    laughs = "".join(f'<!ENTITY a{n} "{f"&a{n - 1};" * 10}">' for n in range(1, 10))
    yield Attack(
        "ten to the ninth", svg("<text>&a9;</text>", f'<!DOCTYPE svg [<!ENTITY a0 "ha">{laughs}]>')
    )
    uses = "".join(
        f'<g id="u{n}">{f"""<use href="#u{n - 1}"/>""" * 10}</g>' for n in range(1, 9)
    )  # fmt: skip
    yield Attack(
        "uses of uses",
        svg(f'<defs><rect id="u0" width="1" height="1"/>{uses}</defs><use href="#u8"/>'),
    )
    yield Attack(
        "a filter of 10^9 pixels",
        svg(
            '<filter id="f" filterUnits="userSpaceOnUse" width="40000" height="40000" filterRes="40000">'
            '<feTurbulence numOctaves="9"/><feGaussianBlur stdDeviation="900"/></filter>'
            '<rect width="40000" height="40000" filter="url(#f)"/>',
            more='viewBox2="0"',
        ),
    )
    yield Attack(
        "a pattern of patterns",
        svg(
            "".join(
                f'<pattern id="p{n}" width=".01" height=".01"><rect width="9" height="9" fill="url(#p{n - 1})"/></pattern>'
                for n in range(1, 8)
            )
            + '<rect width="40" height="40" fill="url(#p7)"/>'
        ),
    )
    yield Attack("nested to the bottom", svg("<g>" * 60_000 + "</g>" * 60_000))
    yield Attack("a path of two million corners", svg(f'<path d="M0 0{"L9 9L0 1" * 1_000_000}"/>'))
    yield Attack("a use of itself", svg('<g id="a"><use href="#a"/></g>'))
    yield Attack(
        "a stroke of a million dashes",
        svg('<path d="M0 0H1000000" stroke="#000" stroke-dasharray=".0001 .0001"/>'),
    )
