"""What several pages use: session, theme, background work, notices, views of a whole design."""
