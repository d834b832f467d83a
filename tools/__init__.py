"""Tools around the project: measures, pictures, habits."""
