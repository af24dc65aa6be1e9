"""The ground floor: pitch names, the controller table, messages."""
