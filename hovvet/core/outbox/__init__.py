"""What goes out: how far a film is on its way, when it goes, whether an outlet takes it, and when it is tried again."""
