"""What to dial into each device, and differences between plans."""
