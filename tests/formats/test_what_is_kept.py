"""What formats of runs keep, as the table in the docs says: a file changes with it, or does not."""

from __future__ import annotations

import re
import unittest
from pathlib import Path
from typing import Any

from tests.makings import document, workpiece
from tests.reference.test_run_files import SIGN
from ulvent.formats.run_out import RUN_FORMATS

TABLE = Path(__file__).resolve().parents[2] / "docs" / "runs.md"
LETTERS, EDGE = {"what": "letters", "of": "t"}, {"what": "edge"}
DRAW: dict[str, Any] = {"id": "d", "name": "Draw", "tool": "pen", "works": [LETTERS], "speed": 50}
CUT: dict[str, Any] = {"id": "c", "name": "Cut", "tool": "beam", "works": [EDGE], "power": 60}
MILL: dict[str, Any] = {"id": "m", "name": "Mill", "tool": "router", "works": [EDGE], "depth": 2}
PLAIN = (DRAW, CUT, MILL)
CHANGED: dict[str, tuple[dict[str, Any], ...]] = {
    "lines": (DRAW, {**CUT, "works": [LETTERS]}, MILL),
    "order": (CUT, DRAW, MILL),
    "tool": ({**DRAW, "tool": "score", "speed": 50}, CUT, MILL),
    "speed": ({**DRAW, "speed": 20}, CUT, MILL),
    "power": (DRAW, {**CUT, "power": 20}, MILL),
    "depth": (DRAW, CUT, {**MILL, "depth": 3}),
    "pauses": (DRAW, {**CUT, "pause": "blade in"}, MILL),
}


def written(format: str, passes: tuple[dict[str, Any], ...], **run: Any) -> bytes:
    piece = document(**SIGN, run={"passes": list(passes), **run})
    return RUN_FORMATS[format].write(workpiece(piece).run)


class Kept(unittest.TestCase):
    def test_each_format_keeps_what_the_table_says(self) -> None:
        rows = dict(re.findall(r"^\| `([\w.-]+)` ((?:\| (?:yes|–) )+)\|$", TABLE.read_text(), re.M))
        self.assertEqual(set(rows), set(RUN_FORMATS))
        kinds = [*CHANGED, "zero"]
        for format, cells in rows.items():
            said = [cell.strip() == "yes" for cell in cells.strip("| ").split("|")]
            plain = written(format, PLAIN)
            self.assertEqual(plain, written(format, PLAIN))
            other = [written(format, passes) for passes in CHANGED.values()]
            other.append(written(format, PLAIN, zero="upper-right"))
            found = [one != plain for one in other]
            self.assertEqual(dict(zip(kinds, found, strict=True)),
                             dict(zip(kinds, said, strict=True)), format)  # fmt: skip
