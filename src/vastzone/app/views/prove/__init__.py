"""The Prove view."""
