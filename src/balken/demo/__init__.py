"""Demo projects: made up, built by the same edits a user makes."""

from balken.demo.orchard_road import orchard_road

__all__ = ["orchard_road"]
