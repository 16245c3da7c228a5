"""Run as a process of its own, isolated: a drawing on stdin becomes a PDF on stdout.

Arguments: folders of fonts.  A drawing made to exhaust a machine ends with this process.
"""

import resource
import sys

resource.setrlimit(resource.RLIMIT_CPU, (10, 10))
resource.setrlimit(resource.RLIMIT_AS, (1024**3, 1024**3))
resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
resource.setrlimit(resource.RLIMIT_CORE, (0, 0))

import svg2pdf_py  # noqa: E402 - after the limits

fonts = svg2pdf_py.FontDatabase()
for folder in sys.argv[1:]:
    fonts.load_fonts_dir(folder)
options = svg2pdf_py.ConversionOptions(raster_scale=3.0)
text = sys.stdin.buffer.read().decode("utf-8")
sys.stdout.buffer.write(svg2pdf_py.svg_to_pdf(text, fonts, options))
