"""Vast Zone: says what every control of a MIDI rig must send, and proves it."""

__version__ = "0.1.0"
