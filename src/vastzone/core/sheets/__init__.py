"""What stands on paper, described once: pages of headings, paragraphs, rows and label strips."""
