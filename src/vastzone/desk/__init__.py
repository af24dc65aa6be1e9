"""The session: the current plan, its history, what is derived from it, what is being played."""
