"""What families share: declarations, solving, shells, things that lie, cards, bands."""
