"""The Rig view."""
