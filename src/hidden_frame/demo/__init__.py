"""The sample publication: an invented observatory's almanac, built through edit/."""
