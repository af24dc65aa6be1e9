"""The computation: no interface, no files, no Qt."""
