"""Where the program keeps what is its own."""

from pathlib import Path


def data_folder() -> Path:
    """The folder for preferences, recovery copies and reports of defects."""
    from platformdirs import user_state_path

    return user_state_path("vastzone")
