"""The view Console: the console drawn and played, its matrix, pins, wires and faults."""
