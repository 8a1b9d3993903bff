"""Drawings as display lists, schedules and the cut list; the same list is painted, printed and exported."""
