"""Clips drafted from a text."""
