"""What a hand can do with what is seen, and what is told of it beforehand; it knows no Qt."""
