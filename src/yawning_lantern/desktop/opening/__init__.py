"""Opening: the order, its lanes, and what is in the way."""
