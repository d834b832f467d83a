"""The visit itself: a job opened, pictures, overrides, entries taken back."""
