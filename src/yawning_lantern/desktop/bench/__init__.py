"""The Bench page: one step at a time."""
