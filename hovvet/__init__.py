"""Hovvet: an editorial desk that turns one long recording into short captioned clips."""
