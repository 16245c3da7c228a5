"""Every change a user can make, each a pure function from publication to publication."""
