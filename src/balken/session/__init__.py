"""The open project: edits, undo, trials, selection, file and journal; it tells its listeners and knows no Qt."""
