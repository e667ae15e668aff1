"""What downloaded files are called."""

from datetime import date

PATTERN = "{title} - {outlet}"
PARTS = {
    "title": "Title of the clip",
    "outlet": "Name of the outlet",
    "date": "Today's date",
    "length": "Length in seconds",
}


def file_name(pattern: str, kind: str, title: str, outlet: str, seconds: float, today: date) -> str:
    """The name of a file by a pattern with parts in braces; what is no part stays as it is."""
    values = {"title": title, "outlet": outlet, "date": today.isoformat(), "length": str(round(seconds))}
    name = pattern or PATTERN
    for part, value in values.items():
        name = name.replace("{" + part + "}", value)
    return f"{name.strip() or title}.{kind}"
