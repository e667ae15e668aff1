"""The rules that the core and the page both compute: the core says what the files say that both are held to."""

import json
import unittest

from tests.golden.make import FOLDER, GOLDEN, written


class Golden(unittest.TestCase):
    def test_the_core_says_what_is_written_down(self):
        for name in GOLDEN:
            with self.subTest(rule=name):
                kept = json.loads((FOLDER / f"{name}.json").read_text())
                self.close(json.loads(written(name)), kept, name)

    def test_no_file_is_left_over(self):
        self.assertEqual({path.stem for path in FOLDER.glob("*.json")}, set(GOLDEN))

    def close(self, made: object, kept: object, where: str) -> None:
        """The same, numbers to five places: how they round differs between machines."""
        if isinstance(kept, dict):
            self.assertEqual(set(made), set(kept), where)
            for key, value in kept.items():
                if key != "table":  # compressed: the colours made by it are compared
                    self.close(made[key], value, f"{where}.{key}")
        elif isinstance(kept, list):
            self.assertEqual(len(made), len(kept), where)
            for n, value in enumerate(kept):
                self.close(made[n], value, f"{where}[{n}]")
        elif isinstance(kept, float) and not isinstance(made, bool):
            self.assertAlmostEqual(made, kept, places=4, msg=where)
        else:
            self.assertEqual(made, kept, where)
