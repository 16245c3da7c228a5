"""A publication's file in memory, as tests and benchmarks change it."""

from __future__ import annotations

import io
from collections.abc import Mapping

from hidden_frame.model.publication import Publication
from hidden_frame.storage.format import write_to


def to_bytes(
    publication: Publication, blobs: Mapping[str, bytes], preview: bytes | None = None
) -> bytes:
    """The whole file in memory."""
    buffer = io.BytesIO()
    write_to(buffer, publication, blobs, preview)
    return buffer.getvalue()
