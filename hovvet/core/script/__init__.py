"""Scripts that are read to a camera: their lines, where one is in them, what was said of them, and the best take of each line."""
