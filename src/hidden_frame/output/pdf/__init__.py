"""A publication as PDF: scenes → operators → fonts, pictures and forms → one file.

>>> export_pdf(composition, blobs, "notes.pdf").sentences
()
"""

from hidden_frame.output.pdf.export import (
    Cancelled,
    ExportReport,
    Progress,
    export_pdf,
    page_labels,
    pdf_bytes,
)

__all__ = ["Cancelled", "ExportReport", "Progress", "export_pdf", "page_labels", "pdf_bytes"]
