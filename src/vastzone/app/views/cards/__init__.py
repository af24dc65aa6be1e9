"""The Cards view."""
