"""Spines and covers."""
