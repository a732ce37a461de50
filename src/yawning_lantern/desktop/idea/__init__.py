"""Idea: where a design begins."""
