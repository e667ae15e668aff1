"""Packages that import each other, and arrows against the floors, in the core, the server and the page: none of either, or it
fails. The floors are those of the contracts in pyproject.toml, and of web/eslint.config.js.

``python tools/floors.py`` prints how many packages and arrows it looked at.
"""

import re
import sys
import tomllib
from collections.abc import Iterable
from pathlib import Path

import grimp

HOME = Path(__file__).parent.parent
WEB = HOME / "web" / "src"
Arrow = tuple[str, str]


def floors_of(container: str) -> list[list[str]]:
    """The packages of each floor, from the top, as pyproject.toml has them."""
    contracts = tomllib.loads((HOME / "pyproject.toml").read_text())["tool"]["importlinter"]["contracts"]
    layers = next(each["layers"] for each in contracts if container in each.get("containers", ()))
    return [floor.split(" | ") for floor in layers]


def arrows_of(container: str, graph: grimp.ImportGraph) -> set[Arrow]:
    """Which package inside a container uses which."""
    packages = {name.removeprefix(f"{container}."): name for name in graph.find_children(container)}
    found = set()
    for one, name in packages.items():
        modules = {name, *graph.find_descendants(name)}
        for module in modules:
            for used in graph.find_modules_directly_imported_by(module):
                other = used.removeprefix(f"{container}.").split(".")[0] if used.startswith(f"{container}.") else one
                if other != one and other in packages:
                    found.add((one, other))
    return found


def floors_of_the_page() -> list[list[str]]:
    """The folders of each floor of the page, from the top."""
    line = re.search(r"FLOORS = (\[\[.*\]\])", (HOME / "web" / "eslint.config.js").read_text())
    assert line
    return [re.findall(r"'(\w+)'", floor) for floor in re.findall(r"\[([^\[\]]+)\]", line.group(1))]


def arrows_of_the_page() -> set[Arrow]:
    """Which folder of the page uses which."""
    found = set()
    for path in WEB.rglob("*"):
        if path.suffix in (".ts", ".vue") and path.parent != WEB:
            own = path.relative_to(WEB).parts[0]
            found |= {(own, other) for other in re.findall(r"['\"]@/(\w+)/", path.read_text()) if other != own}
    return found


def wrong(floors: list[list[str]], arrows: Iterable[Arrow]) -> list[str]:
    """What is to be told of arrows: packages that use each other, and those that use what is above or beside them."""
    height = {name: n for n, floor in enumerate(floors) for name in floor}
    known = set(arrows)
    both = [f"{a} and {b} use each other" for a, b in sorted(known) if (b, a) in known and a < b]
    up = [
        f"{a} uses {b}, which is above or beside it"
        for a, b in sorted(known)
        if a in height and height.get(b, 99) <= height[a]
    ]
    return both + up


def main() -> int:
    """Print what is wrong; 1 if anything is."""
    graph = grimp.build_graph("hovvet", include_external_packages=False)
    failed = False
    for name in ("hovvet.core", "hovvet.server"):
        arrows = arrows_of(name, graph)
        floors = floors_of(name)
        inside = {each for floor in floors for each in floor}
        told = wrong(floors, [arrow for arrow in arrows if set(arrow) <= inside])
        failed |= bool(told)
        print("\n".join([f"{name}: {len(inside)} packages, {len(arrows)} arrows", *told]))
    arrows, floors = arrows_of_the_page(), floors_of_the_page()
    told = wrong(floors, arrows)
    print("\n".join([f"web/src: {sum(map(len, floors))} folders, {len(arrows)} arrows", *told]))
    return int(failed or bool(told))


if __name__ == "__main__":
    sys.exit(main())
