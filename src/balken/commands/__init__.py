"""What the command ``balken`` does without a window, one module a command."""
