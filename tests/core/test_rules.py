"""Rules of the house that no tool holds: how values are changed, and that a kind of content is known in its own modules alone."""

import re
import unittest
from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from sys import path as places

from hovvet.core.sheet.contents import KINDS

HOME = Path(__file__).parent.parent.parent


def lines(where: str, suffixes: tuple[str, ...]) -> Iterator[tuple[str, str]]:
    """(where it stands, line) of all source files under a folder."""
    for path in sorted((HOME / where).rglob("*")):
        if path.suffix in suffixes and ".test." not in path.name and "migrations" not in path.parts:
            for n, line in enumerate(path.read_text().splitlines(), 1):
                yield f"{path.relative_to(HOME)}:{n}", line


class Rules(unittest.TestCase):
    def test_values_are_changed_in_the_one_way_that_checks_them(self):
        self.assertEqual([at for at, line in lines("hovvet", (".py",)) if ".model_copy(" in line], [])

    def test_nothing_of_the_core_asserts_of_which_kind_something_is(self):
        self.assertEqual([at for at, line in lines("hovvet/core", (".py",)) if "assert isinstance" in line], [])

    def test_a_kind_of_content_is_compared_nowhere_but_in_its_own_modules(self):
        kinds = "|".join(KINDS)
        compared = re.compile(rf"""\bkind\s*(?:==|!=|===|!==|in)\s*\(?['"](?:{kinds})['"]""")
        sources = (*lines("hovvet", (".py",)), *lines("web/src", (".ts", ".vue")))
        found = [at for at, line in sources if compared.search(line) and "word.kind" not in line]
        # A thing of the Shelf has kinds of its own, with words in common.
        shelf = (
            "hovvet/server/assets/",
            "hovvet/core/shelf/",
            "hovvet/server/stock/",
            "hovvet/server/clips/suggesting",
            "web/src/shelf/",
        )
        own = ("hovvet/core/sheet/contents/", "hovvet/core/compile/contents/", "web/src/sheet/kinds/")
        self.assertEqual([at for at in found if not at.startswith((*shelf, *own))], [])

    def test_the_floors_tell_of_packages_that_use_each_other_and_of_arrows_that_run_up(self):
        places.insert(0, str(HOME / "tools"))
        try:
            floors = import_module("floors")
        finally:
            places.pop(0)
        high, low = [["top"], ["left", "right"], ["ground"]], [("top", "ground"), ("left", "ground")]
        self.assertEqual(floors.wrong(high, low), [])
        told = floors.wrong(high, [*low, ("ground", "left"), ("left", "right")])
        self.assertEqual(told, [
            "ground and left use each other", "ground uses left, which is above or beside it", "left uses right, which is above or beside it",
        ])  # fmt: skip
