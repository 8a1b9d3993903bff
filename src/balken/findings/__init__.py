"""Findings: what does not fit, stand or make sense, with place, reason and a fix where there is one."""
