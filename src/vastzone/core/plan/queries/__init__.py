"""Finding things in a plan, and words for them."""
