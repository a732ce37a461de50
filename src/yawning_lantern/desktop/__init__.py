"""The window. The only floor that imports Qt."""
