"""Stories on pages: the frames that they flow through, what stands in each, and what is left."""
