"""Where the lines of a segment end: a way of choosing a module, all of them giving cuts."""
