"""A paragraph one of whose words is not divided, whatever else is."""

from __future__ import annotations

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.paragraph import ParagraphSpec, Span

_ENDS = " \t\u2028"  # of words


@remembered(by_value=("offset",), shared=True)
def with_whole_word(spec: ParagraphSpec, offset: int) -> ParagraphSpec:
    """The paragraph with the word that a place in its text lies in kept whole; as it is where that
    is a marker's.

    >>> from hidden_frame.typeset.fonts import font_book
    >>> from hidden_frame.typeset.shaping import setting_of
    >>> setting = setting_of(font_book().face("Spectral"), 10.0)
    >>> spec = ParagraphSpec((Span("under the observatory", setting, (0.0,)),), setting, 14.0)
    >>> [span.text for span in with_whole_word(spec, 14).spans]
    ['under the ', 'observatory']
    """
    at = len(spec.dress.drop.span.text) if spec.dress.drop is not None else 0
    for n, span in enumerate(spec.spans):
        size = 0 if span.goes_on else 1 if span.marker or span.anchored else len(span.text)
        if at <= offset < at + size:
            if span.marker or span.anchored is not None:
                return spec
            return spec._replace(
                spans=(*spec.spans[:n], *_parted(span, offset - at), *spec.spans[n + 1 :])
            )
        at += size
    return spec


def _parted(span: Span, at: int) -> list[Span]:
    """A span in up to three: before a word, the word, and behind it."""
    text = span.text
    first = max(text.rfind(c, 0, at) for c in _ENDS) + 1
    last = min((i for c in _ENDS if (i := text.find(c, at)) >= 0), default=len(text))
    parts = (text[:first], span.language), (text[first:last], None), (text[last:], span.language)
    return [span._replace(text=t, language=language) for t, language in parts if t]
