"""Describing devices: by a line of words, a table, by striking; what they lose and gain."""
