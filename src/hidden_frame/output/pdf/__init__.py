"""A publication as PDF: scenes → operators → fonts, pictures and forms → one file.

>>> export_pdf(composition, blobs, "notes.pdf").sentences
()
"""

from hidden_frame.output.pdf.export import (
    Cancelled,
    Progress,
    Report,
    export_pdf,
    page_labels,
    pdf_bytes,
)

__all__ = ["Cancelled", "Progress", "Report", "export_pdf", "page_labels", "pdf_bytes"]
