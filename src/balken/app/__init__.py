"""The desktop program: the only place that knows Qt."""
