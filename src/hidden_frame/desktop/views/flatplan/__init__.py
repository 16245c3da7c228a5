"""The flatplan: the whole publication by section and spread, made for putting in order."""
