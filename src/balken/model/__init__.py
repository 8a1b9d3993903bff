"""What the user decides: authored records, the project that holds them, and edits to it.

Nothing here is derived; records are immutable and edits return a new project.
"""
