"""Pages and sections: their order, their numbers, their folios, the setup."""
