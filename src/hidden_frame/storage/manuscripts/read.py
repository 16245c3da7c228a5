"""A manuscript by its file's kind."""

from __future__ import annotations

from pathlib import Path

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.door import door
from hidden_frame.storage.manuscripts import KINDS
from hidden_frame.storage.manuscripts.clock import TooSlow
from hidden_frame.storage.manuscripts.docx import read_docx
from hidden_frame.storage.manuscripts.hypertext import read_html
from hidden_frame.storage.manuscripts.manuscript import MAX_BYTES, Manuscript
from hidden_frame.storage.manuscripts.marked import read_markdown
from hidden_frame.storage.manuscripts.odt import read_odt
from hidden_frame.storage.manuscripts.plain import decoded, read_plain


def read(path: Path, encoding: str = "") -> Manuscript:
    """Reads a manuscript; `encoding` is for plain texts whose own can't be told.

    >>> from pathlib import Path
    >>> _ = Path("note.md").write_text("# Stars\\n\\nA *bright* one.")
    >>> [(p.style, p.text) for p in read(Path("note.md")).paragraphs]
    [('Heading 1', 'Stars'), ('Normal', 'A bright one.')]

    Raises `Refusal` with a sentence for what is no manuscript, damaged or protected.
    """
    kind = path.suffix.lower().lstrip(".")
    if kind not in KINDS:
        raise Refusal(f"“{path.name}” can’t be imported; choose .docx, .odt, .md, .html or .txt.")
    try:
        if path.stat().st_size > MAX_BYTES:
            raise Refusal(f"“{path.name}” is larger than a manuscript may be (200 MB).")
        data = path.read_bytes()
    except OSError as error:
        raise Refusal(f"“{path.name}” can't be read: {error.strerror or error}.") from error
    return of_bytes(data, path.stem, path.name, kind, encoding)


def of_bytes(data: bytes, stem: str, name: str, kind: str, encoding: str = "") -> Manuscript:
    """The same of a file's bytes."""
    with door(name):
        try:
            return _of_bytes(data, stem, name, kind, encoding)
        except TooSlow as error:
            raise Refusal(
                f"“{name}” takes too long to read; save it as plain text (.txt) and import that."
            ) from error


def _of_bytes(data: bytes, stem: str, name: str, kind: str, encoding: str) -> Manuscript:
    if kind == "docx":
        return read_docx(data, name)._replace(name=stem)
    if kind == "odt":
        return read_odt(data, name)._replace(name=stem)
    text, used = decoded(data, name, encoding)
    return _of_text(text, stem, kind)._replace(encoding=used)


def _of_text(text: str, stem: str, kind: str) -> Manuscript:
    if kind in ("md", "markdown"):
        return read_markdown(text, stem)
    if kind in ("html", "htm"):
        return read_html(text.encode("utf-8", "replace"), stem)
    return read_plain(text, stem)
