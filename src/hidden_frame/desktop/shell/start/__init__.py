"""The start window: a new publication by kind, recent ones with their first pages, the demo."""
