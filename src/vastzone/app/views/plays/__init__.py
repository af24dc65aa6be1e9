"""The Plays view."""
