"""Who may use what stands on the Shelf, and what its owner asks for."""

from collections.abc import Iterable
from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from hovvet.core.value import Value, with_changes

Sort = Literal["own", "free", "attribution", "paid"]
SORTS: dict[Sort, str] = {
    "own": "Our own", "free": "Free to use", "attribution": "Free, if its author is named", "paid": "Paid for",
}  # fmt: skip


class Licence(Value):
    """``credit`` names the author, ``source`` where it is from; after the day ``until`` it may not be used any more;
    ``price`` is what it costs (or cost), in euros."""

    sort: Sort = "own"
    credit: Annotated[str, Field(max_length=200)] = ""
    source: Annotated[str, Field(max_length=200)] = ""
    until: date | None = None
    price: Annotated[float, Field(ge=0, le=100_000)] = 0.0

    @property
    def told(self) -> str:
        """What it asks for, in a few words; "" for what is one's own."""
        if self.sort == "paid" and self.price:
            return f"€{self.price:g}"
        if self.sort == "attribution" and self.credit:
            return f"Free; name {self.credit}"
        return "" if self.sort == "own" else SORTS[self.sort]

    @property
    def asks(self) -> str:
        """What somebody has to agree to who takes it; "" for nothing."""
        if self.sort == "paid":
            return f"It costs €{self.price:g}. The library puts that on your workspace's bill."
        if self.sort == "attribution":
            whom = f", {self.credit}" if self.credit else ""
            return f"It is free; a post that shows it has to name its author{whom}. Hovvet gathers the lines for that."
        return ""

    def refusal(self, today: date) -> str:
        """Why it may not be used; "" where it may."""
        if self.until is not None and today > self.until:
            return f"its licence ended on {self.until.day} {self.until:%B %Y}"
        return ""


class LicenceChange(Value):
    """Some of the fields of a licence, set anew. What is not given stays; ``until`` None is a licence without an end."""

    sort: Sort | None = None
    credit: Annotated[str, Field(max_length=200)] | None = None
    source: Annotated[str, Field(max_length=200)] | None = None
    until: date | None = None
    price: Annotated[float, Field(ge=0, le=100_000)] | None = None

    def of(self, licence: Licence) -> Licence:
        """The licence with these fields."""
        given = self.model_dump(exclude_unset=True)
        return with_changes(
            licence, **{name: value for name, value in given.items() if name == "until" or value is not None}
        )


def credits_for(shown: Iterable[tuple[str, Licence]]) -> list[str]:
    """The lines that a post has to have for things shown (name, licence), each once, as they are seen."""
    lines = []
    for name, licence in shown:
        if licence.sort == "attribution":
            author = f" by {licence.credit}" if licence.credit else ""
            source = f" ({licence.source})" if licence.source else ""
            lines.append(f"“{name}”{author}{source}")
    return list(dict.fromkeys(lines))
