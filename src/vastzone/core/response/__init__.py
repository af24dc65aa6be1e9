"""What hands and feet really do: strikes and their settings."""
