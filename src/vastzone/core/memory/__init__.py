"""What devices are known to hold: beside the plan, never inside it."""
