"""How things are told: what was done, what will be, what stands where."""
