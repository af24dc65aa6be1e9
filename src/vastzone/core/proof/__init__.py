"""Rules and findings: a rule is one small function in a table."""
