"""Consoles: pins, scanning, wires, faults and how to find them."""
