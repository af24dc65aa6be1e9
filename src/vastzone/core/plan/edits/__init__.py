"""Edits: each is a name for the undo list and a pure function from plan to plan."""
