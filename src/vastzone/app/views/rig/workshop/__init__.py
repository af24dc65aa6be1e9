"""The workshop: a device as it stands, described where it lies."""
