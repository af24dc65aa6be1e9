"""The Pads view."""
