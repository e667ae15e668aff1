"""Finding what of a recording is worth sharing.

``sentences`` cuts what is said into sentences; ``rules`` are the signs that are looked for in them, in tables; ``features``
says what each sentence is like; ``scoring`` what each span of sentences is worth; ``choosing`` takes the best; ``reasons``
and ``titles`` say of those why, and what they could be called; ``find`` is all of it.
"""
