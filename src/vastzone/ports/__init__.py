"""MIDI in and out: shipped stand-ins, and real ports."""
