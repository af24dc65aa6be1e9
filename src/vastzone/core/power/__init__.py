"""What feeds the rig, what it weighs, which cables it needs."""
