"""Manuscripts: texts that authors write elsewhere, read into one neutral form and written from it.

`read.read(path)` takes plain text, Markdown, HTML, .docx (ISO/IEC 29500) and .odt (ISO/IEC 26300);
`write.written` gives the bytes of a file for an author.
"""

KINDS = ("docx", "odt", "md", "markdown", "html", "htm", "txt", "text")
