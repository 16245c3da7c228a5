"""Writes the JSON Schema of the file format into docs/format/."""

from pathlib import Path

from hidden_frame.storage.decoding import schema

TARGET = Path(__file__).parent.parent / "docs" / "format" / "publication.schema.json"

if __name__ == "__main__":
    TARGET.parent.mkdir(parents=True, exist_ok=True)
    TARGET.write_bytes(schema())
    print(f"wrote {TARGET.name}")
