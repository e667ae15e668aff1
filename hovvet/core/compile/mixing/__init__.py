"""The mix: what moves a level is decided here, once for the page and the file."""
