"""Words by which people look for a command that is called by another.

Common practice of the trade and of everyday speech; no source.
"""

from __future__ import annotations

# Words of one row mean the same when something is looked for.
_ALIKE = (
    ("picture", "image", "photo", "photograph", "graphic", "illustration", "logo"),
    ("folio", "page number", "pagination", "number"),
    ("publication", "document", "file", "book"),
    ("delete", "remove", "erase", "trash"),
    ("duplicate", "clone", "copy"),
    ("close", "quit", "exit", "leave"),
    ("rename", "name", "title"),
    ("colour", "color", "swatch", "ink"),
    ("centre", "center", "middle"),
    ("style", "format", "typography"),
    ("export", "print", "pdf", "output"),
    ("override", "exception", "unlock", "detach"),
    ("master", "template", "parent page", "background", "watermark"),
    ("guide", "ruler line", "helper line"),
    ("align", "line up", "snap"),
    ("group", "combine", "together"),
    ("front", "above", "top", "raise"),
    ("back", "behind", "below", "lower", "bottom"),
    ("section", "chapter", "part"),
    ("signs", "invisible", "hidden characters", "whitespace", "pilcrow"),
    ("flatplan", "overview", "plan", "sorter"),
    ("checks", "problems", "errors", "preflight", "warnings"),
    ("proof", "preview"),
    ("settings", "preferences", "options"),
    ("shelf", "sidebar", "panel"),
    ("steps", "history"),
    ("text frame", "text box"),
    ("rounded", "corner"),
    ("spread", "double page", "facing"),
    ("marker", "variable", "placeholder", "field"),
    ("find", "search"),
    ("about", "metadata", "author", "information"),
    ("page size", "trim", "format", "bleed", "unit", "dimensions", "paper", "resize"),
    ("zoom", "magnify", "enlarge"),
)


def alike(word: str) -> set[str]:
    """The word, and those that mean the same.

    >>> sorted(alike("exit"))
    ['close', 'exit', 'leave', 'quit']
    """
    found = {word}
    for row in _ALIKE:
        if any(word in entry.split() for entry in row):
            found.update(row)
    return found
