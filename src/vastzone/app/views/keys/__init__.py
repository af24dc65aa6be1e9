"""Keybeds to scale with their zones above them and the parts they reach below."""
