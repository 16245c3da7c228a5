"""What commands do, a file for each topic."""
