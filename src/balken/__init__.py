"""Balken: structural detailing of small buildings, from setting out to cut list."""

__version__ = "0.1.0"
