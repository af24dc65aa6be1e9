"""What is around every view: header, rail, facts, strike strip, go-to."""
