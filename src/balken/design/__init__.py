"""Design values and the standards, one module each; choosing size and spacing."""
