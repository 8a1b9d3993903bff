"""Statics: closed forms for straight members under uniform load."""
