"""Vast Zone: says what every control of a MIDI rig must send, and proves it."""

from vastzone.languages import choose

__version__ = "0.1.0"

choose()
