"""Mats, pockets, tags, rosettes: what faces are dressed with."""
