"""One sheet folded flat: marked out, folded by a script, judged, its hollows told; and the search for a book."""
