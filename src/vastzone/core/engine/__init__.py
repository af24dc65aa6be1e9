"""Strikes -> messages -> cables -> parts: the simulation."""
