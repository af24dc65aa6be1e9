"""How late things are: from the hand to the ear, piece by piece."""
