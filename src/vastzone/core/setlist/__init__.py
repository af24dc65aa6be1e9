"""The evening: what each change of song costs, what goes on over it, in which order to store."""
