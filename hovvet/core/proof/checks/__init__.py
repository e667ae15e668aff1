"""What is checked: a module for what belongs together, each function of it one check."""
