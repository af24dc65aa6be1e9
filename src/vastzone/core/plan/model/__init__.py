"""The document as frozen values, and nothing else."""
