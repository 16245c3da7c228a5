"""What `publication.json` says, read: older files brought up to today's, newer ones to look at.

>>> decoded(b'{"format":1,"publication":{"title":"Notes"}}', "notes.hframe")
Traceback (most recent call last):
...
hidden_frame.model.errors.Refusal: “notes.hframe” is not valid: at publication: object missing \
required field `setup`.
"""

from __future__ import annotations

import re
from typing import Any, NamedTuple

import msgspec

from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import check
from hidden_frame.model.publication import Publication
from hidden_frame.storage.newer import in_words, known
from hidden_frame.storage.numbers import FORMAT, brought_up, unchanged_since


class Envelope(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What `publication.json` holds: the format's number, then the publication."""

    format: int
    publication: Publication


class ReadFile(NamedTuple):
    """A publication, and a sentence where its file says more than this version knows."""

    publication: Publication
    more: str


class _Number(msgspec.Struct):
    format: int


def schema() -> bytes:
    """The JSON Schema of `publication.json`, generated from the model."""
    text = msgspec.json.encode(msgspec.json.schema(Envelope))
    # Rules that docstrings cite by number are explained in docs/rules.md; the schema stands alone.
    text = re.sub(rb"(?:\\n *| )?\(R\d+a?(?:, R\d+a?)*\)", b"", text)
    return msgspec.json.format(text, indent=1) + b"\n"


def shape(schema: Any) -> Any:
    """What a schema (JSON, decoded) allows, without the words that describe it: if this changes,
    an older version may lose something.

    >>> shape({"title": "Notes", "type": "object", "properties": {"title": {"type": "string"}}})
    {'type': 'object', 'properties': {'title': {'type': 'string'}}}
    """
    if isinstance(schema, list):
        return [shape(part) for part in schema]
    if not isinstance(schema, dict):
        return schema
    words = [k for k in ("title", "description") if isinstance(schema.get(k), str)]
    return {key: shape(part) for key, part in schema.items() if key not in words}


def decoded(data: bytes, name: str) -> Publication:
    """The publication in the bytes of a `publication.json`; `name` is for messages.  Raises
    `Refusal` for what is none, breaks an invariant, or says more than this version knows."""
    publication, more = seen(data, name)
    if more:
        raise Refusal(
            f"“{name}” was kept by a newer version and contains data this one doesn’t know; it "
            "is left as it is. Open it with the newer version."
        )
    return publication


def seen(data: bytes, name: str) -> ReadFile:
    """The same, and for what says more than this version knows what can be seen of it."""
    try:
        number = msgspec.json.decode(data, type=_Number).format
        if number < 1:
            raise Refusal(f"“{name}” is not valid: there is no format {number}.")
        found = _seen(data, number, name)
    except msgspec.ValidationError as error:
        raise Refusal(f"“{name}” is not valid: {_where(str(error))}") from error
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise Refusal(f"“{name}” holds broken JSON in publication.json: {error}.") from error
    try:
        check(found.publication)
    except Refusal as error:
        if found.more:
            raise Refusal(
                f"“{name}” was made by a newer version and can’t be shown without data this one "
                f"doesn’t know ({error}); update Hidden Frame to open it."
            ) from error
        raise Refusal(f"“{name}” is not valid. {error}") from error
    return found


def _seen(data: bytes, number: int, name: str) -> ReadFile:
    if number <= FORMAT and unchanged_since(number):
        try:
            return ReadFile(msgspec.json.decode(data, type=Envelope).publication, "")
        except msgspec.ValidationError as error:
            if "unknown field" not in str(error):
                raise
    tree = msgspec.json.decode(data)
    if number < FORMAT:
        tree["publication"] = brought_up(tree["publication"], number)
    return _looked_at(tree, number, name)


def _looked_at(tree: dict[str, Any], number: int, name: str) -> ReadFile:
    """What this version knows of a tree, and the sentence for the rest."""
    kept, unknown = known(tree, Envelope)
    publication = msgspec.convert(kept, Envelope).publication
    if not unknown and number <= FORMAT:
        return ReadFile(publication, "")
    left_out = f", without data this version doesn’t know ({in_words(unknown)})" if unknown else ""
    made = (
        f"was made by a newer version (format {number}; this one writes {FORMAT})"
        if number > FORMAT
        else "contains data from a newer version"
    )
    return ReadFile(
        publication,
        f"“{name}” {made} and is opened to look at{left_out}; its file stays as it is, Save as… "
        "makes a copy of what is shown.",
    )


def _where(message: str) -> str:
    """msgspec's message with the place first: “at sections[0].pages[3].blind: expected …”."""
    what, _, path = message.partition(" - at ")
    place = path.strip("`").removeprefix("$.publication.").removeprefix("$.") or "the top"
    return f"at {place}: {what[:1].lower()}{what[1:]}."
