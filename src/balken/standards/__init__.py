"""Standards: demands in, checks out.  What is asked stands in ``demands``, what comes back in ``checks``."""
