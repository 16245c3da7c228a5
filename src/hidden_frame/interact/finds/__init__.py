"""Find: what can be looked for, the words people use for it, and which comes first."""
