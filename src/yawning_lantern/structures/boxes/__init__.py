"""Boxes, lids, trays, and what stands in them."""
