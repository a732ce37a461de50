"""Form: the nest, the standing and flat views, the cutaway, the fits."""
