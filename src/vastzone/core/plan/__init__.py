"""The document as frozen values; edits are pure functions with an undo label."""
