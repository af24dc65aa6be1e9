"""Measures of what stands on paper, in points."""

TICK, GAP = 20.0, 6.0
"""A box to tick, and what stays free beside what stands in a row."""
SMALL, LEADING = 9.0, 1.2
"""The size of a small line, and how high a line is for its size."""
OVER, UNDER = 4.0, 5.0
"""Over and under what stands in a row."""
