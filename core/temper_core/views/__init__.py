"""What a screen, a sheet or an API shows, built from state and plain data."""
