"""Documents: the sheets of desks and clips, with every change kept; and the words they are made of."""
