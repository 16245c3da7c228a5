"""A manuscript written out, so that its author can correct it: .docx, .odt, HTML, Markdown, text.

What is written is read back the same, as far as the format goes.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.manuscript import (
    LINE_BREAK,
    Noted,
    Para,
    SourceLook,
    cleaned,
)

KINDS = ("docx", "odt", "html", "htm", "md", "markdown", "txt", "text")


def written(
    paragraphs: Iterable[Para],
    kind: str,
    title: str = "",
    characters: Mapping[str, SourceLook] | None = None,
) -> bytes:
    """The bytes of a file of a kind: docx, odt, html, md or txt; `characters` are what character
    styles look like, by name.  Raises `Refusal` for another kind."""
    several: list[Para] = [cleaned(paragraph) for paragraph in paragraphs]
    looks = {cleaned(name): look for name, look in (characters or {}).items()}
    title = cleaned(title)
    match kind:
        case "docx":
            from hidden_frame.storage.manuscripts.write_docx import docx

            return docx(several, title, looks)
        case "odt":
            from hidden_frame.storage.manuscripts.write_odt import odt

            return odt(several, title, looks)
        case "html" | "htm":
            from hidden_frame.storage.manuscripts.write_html import html

            return html(several, title)
        case "md" | "markdown":
            from hidden_frame.storage.manuscripts.write_markdown import markdown

            return markdown(several)
        case "txt" | "text":
            return _plain(several)
    raise Refusal(f"A story can't be written as .{kind}; choose .docx, .odt, .html, .md or .txt.")


def _plain(paragraphs: list[Para]) -> bytes:
    """Words alone, notes in brackets."""
    lines = []
    for paragraph in paragraphs:
        words = ""
        for stretch in paragraph.stretches:
            noted = isinstance(stretch.beside, Noted)
            words += f"[{''.join(s.text for s in stretch.beside.words)}]" if noted else stretch.text  # type: ignore[union-attr]
        lines.append(words.replace(LINE_BREAK, "\n"))
    return ("\n".join(lines) + "\n").encode("utf-8")
