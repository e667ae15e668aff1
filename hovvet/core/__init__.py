"""The job itself: no Django, no HTTP, no printing."""
