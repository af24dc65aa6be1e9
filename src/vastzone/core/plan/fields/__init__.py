"""The one table of everything that is set in a device.

``owners`` walks through what has settings, ``values`` says values as a device shows them, and
``table`` has one line a field: cards, differences, words and solvers read it, and nothing else.
"""
