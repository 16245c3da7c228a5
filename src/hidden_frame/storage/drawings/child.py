"""Run as a process of its own, isolated: a drawing on stdin becomes a PDF on stdout.

Arguments: folders of fonts.  A drawing made to exhaust a machine ends with this process.
"""

import resource
import sys

_SIDE = 1200  # pixels of the longer side

resource.setrlimit(resource.RLIMIT_CPU, (6, 6))
resource.setrlimit(resource.RLIMIT_AS, (1024**3, 1024**3))
resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
resource.setrlimit(resource.RLIMIT_CORE, (0, 0))

import svg2pdf_py  # noqa: E402 - after the limits

fonts = svg2pdf_py.FontDatabase()
for folder in sys.argv[1:]:
    fonts.load_fonts_dir(folder)
options = svg2pdf_py.ConversionOptions(raster_scale=3.0)
text = sys.stdin.buffer.read().decode("utf-8")
pdf = svg2pdf_py.svg_to_pdf(text, fonts, options)

# Painted once, as the desk will: what takes for ever there ends here.
import pypdfium2  # noqa: E402

page = pypdfium2.PdfDocument(pdf)[0]
page.render(scale=min(_SIDE / max(*page.get_size(), 1.0), 20.0))
sys.stdout.buffer.write(pdf)
