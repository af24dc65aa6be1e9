"""Generic device kinds that ship with the program."""
