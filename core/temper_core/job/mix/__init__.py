"""Mix: what the change costs."""
