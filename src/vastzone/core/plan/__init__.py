"""The document: its values, the table of its fields, its edits, and finding things in it."""
