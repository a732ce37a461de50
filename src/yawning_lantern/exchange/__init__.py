"""In and out: design files, the plan as JSON, the cut list as CSV, templates as PDF. All written atomically."""
