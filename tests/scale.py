"""How much longer than usual the laws are tried: ``VZ_FUZZ=20`` tries twenty times as much."""

import os


def scaled(examples):
    """So many examples, more where longer fuzzing is asked for."""
    return examples * int(os.environ.get("VZ_FUZZ", "1"))
