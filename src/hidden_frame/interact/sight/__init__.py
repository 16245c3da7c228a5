"""What is looked at and selected in a publication: a value, and what comes of it by each act."""
