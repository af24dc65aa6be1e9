"""How long messages take on their way."""
