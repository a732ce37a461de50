"""Bands, ribbons, straps and hinges that hold things shut or together."""
