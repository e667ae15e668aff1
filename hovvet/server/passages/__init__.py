"""Passages: what of a recording may be worth sharing."""
