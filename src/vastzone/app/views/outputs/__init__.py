"""The view Outputs: what goes to which output and channel, how late, what feeds it."""
