"""What cards, tools and lists say and do, without Qt."""
