"""What the pictures of the views show, derived from the plan and its proof."""
