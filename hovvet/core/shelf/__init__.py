"""The Shelf: what a workspace has to show over its words, who may use it, and how it is found."""
