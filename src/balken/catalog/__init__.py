"""What can be bought: sections, species, posts, blocks, materials."""
