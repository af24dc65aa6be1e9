"""Colours, type, icons and the style sheet made of them."""
