"""Standards: demands in, checks out.  What a check is stands in ``checks``, its quantities in ``measures``."""
