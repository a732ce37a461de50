"""Structures of one sheet, folded flat."""
