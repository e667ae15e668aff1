"""A clip drafted from a text: what is written, what of it is said and how, and what is laid over it."""
