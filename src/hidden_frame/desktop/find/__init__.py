"""Find: one field that leads to commands, fields, pages of the guide, and what is there."""
