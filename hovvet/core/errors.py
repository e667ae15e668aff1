"""What the core raises when a person has to be told something."""


class CoreError(Exception):
    """Something a person can understand and act on.

    ``str(error)`` is the plain message; ``detail`` holds what a developer needs.
    """

    def __init__(self, message: str, detail: str = "") -> None:
        super().__init__(message)
        self.detail = detail


class Cancelled(CoreError):
    """The person asked for the work to stop."""

    def __init__(self) -> None:
        super().__init__("Cancelled.")
