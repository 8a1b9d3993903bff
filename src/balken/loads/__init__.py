"""Loads: cases and combinations, and the path from area loads down to the soil."""
