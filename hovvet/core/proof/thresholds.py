"""From when on something is wrong: all thresholds of the proof in one table. What an outlet has of its own (length, file size,
loudness, true peak, safe area), what a caption layout has (reading speed), and from when on a word is doubtful, is with those and not here.
"""

LONGEST_PAUSE = 1.0  # seconds between two words that are heard
PAUSE_LEFT = 0.35  # seconds of such a pause that stay when it is taken out
LONGEST_SILENCE, SILENT = 1.5, -50.0  # seconds, and the LUFS under which nothing is heard
SHORTEST_CAPTION = 0.5  # seconds: a shorter one flashes by, unless its layout is one of single words
MUSIC_UNDER = 10.0  # dB by which music is under the speech at least
LOUDNESS_OFF = 1.0  # LU from the outlet's loudness
PEAK_OFF = 0.3  # dB over the outlet's true peak: what coding adds
LOUDER = 3.0  # dB by which a stretch that is too quiet comes back to at most under the outlet's loudness
ENLARGED = 4.0  # times as wide and high: sixteen pixels of one
UNSEEN = 1.5  # seconds for which nobody is in view though somebody is in the picture
JUMP_ZOOM, JUMP_SHIFT = 1.12, 0.2  # a cut to another size, or another part (of the width), is a shot of its own
BLACK, BLACK_SECONDS = 0.012, 0.5  # relative luminance under which a frame is black; seconds
FROZEN, FROZEN_SECONDS = 0.003, 2.0  # largest change of luminance under which a picture stands still; seconds
CLICK = 12.0  # times as steep as what is around it, in sound
OPENING = 0.5  # seconds in which something has to be read or somebody seen
WATCHED = 0.95  # of a file's length that has to have been played, for it to have been watched to the end
