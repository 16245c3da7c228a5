"""What stands beside the desk: the Shelf, Properties, Checks."""
