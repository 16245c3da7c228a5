"""What a PDF says of itself: title, author, dates, language, in Info and XMP alike."""

from __future__ import annotations

from datetime import datetime

import pikepdf
from pikepdf import Dictionary

from hidden_frame.model.publication import Publication

PROGRAM = "Hidden Frame"


def inform(pdf: pikepdf.Pdf, publication: Publication, when: datetime) -> None:
    """Writes the publication's own words into the file (ISO 32000-1, 14.3; ISO 16684-1)."""
    about = publication.about
    stamp = when.astimezone()
    info = {
        "/Title": publication.title,
        "/Author": about.author,
        "/Subject": about.subject,
        "/Keywords": about.keywords,
        "/Creator": PROGRAM,
        "/Producer": PROGRAM,
        "/CreationDate": pikepdf_date(stamp),
        "/ModDate": pikepdf_date(stamp),
    }
    pdf.trailer.Info = pdf.make_indirect(Dictionary({k: v for k, v in info.items() if v}))
    language = about.language.replace("_", "-")
    pdf.Root.Lang = language
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as xmp:
        xmp["dc:title"] = publication.title
        xmp["dc:language"] = {language}
        if about.author:
            xmp["dc:creator"] = [about.author]
        if about.subject:
            xmp["dc:description"] = about.subject
        if about.keywords:
            xmp["pdf:Keywords"] = about.keywords
        xmp["pdf:Producer"] = PROGRAM
        xmp["xmp:CreatorTool"] = PROGRAM
        xmp["xmp:CreateDate"] = xmp["xmp:ModifyDate"] = stamp.isoformat(timespec="seconds")


def pikepdf_date(when: datetime) -> str:
    """A date as PDF writes it (7.9.4): D:20261126093000+01'00."""
    offset = when.strftime("%z")
    return when.strftime("D:%Y%m%d%H%M%S") + f"{offset[:3]}'{offset[3:5]}"
