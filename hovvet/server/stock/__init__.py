"""A stock library to take pictures and films from: an outside service, played by a stand-in that ships with Hovvet."""
