"""The Sheets page: what is cut from which sheet, in which order."""
