"""Pedals, knobs and levers: worked, heard and plotted."""
