"""From authored records to members and solids, and what bears on what."""
