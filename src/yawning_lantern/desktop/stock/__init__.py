"""Stock: paper, glue and tools of the open design."""
