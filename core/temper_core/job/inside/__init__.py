"""What is inside a loop, how sure that is, and how far it protects."""
