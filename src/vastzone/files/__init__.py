"""Reading and writing: the native file, MIDI files."""
