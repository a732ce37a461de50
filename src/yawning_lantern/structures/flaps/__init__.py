"""Flaps and waterfalls on a page."""
