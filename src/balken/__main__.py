"""``python -m balken``."""

from balken.cli import main

raise SystemExit(main())
