"""One folder a view."""
