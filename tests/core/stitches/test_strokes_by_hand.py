"""How many strokes letters have: no more than a person would sew by hand in a plain face.

The table is common practice, no source. What crosses is one stroke and two halves; a dot is one.
"""

from __future__ import annotations

import unittest
from itertools import product

from tests.makings import document, workpiece
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.stitches.columns import columns_of

BY_HAND = {
    "A": 3, "B": 3, "C": 1, "D": 2, "E": 4, "F": 3, "G": 3, "H": 3, "I": 1, "J": 1, "K": 3, "L": 2,
    "M": 4, "N": 3, "O": 1, "P": 2, "Q": 2, "R": 3, "S": 1, "T": 2, "U": 1, "V": 2, "W": 4, "X": 3,
    "Y": 3, "Z": 3, "a": 2, "b": 2, "c": 1, "d": 2, "e": 2, "f": 3, "g": 3, "h": 2, "i": 2, "j": 2,
    "k": 3, "l": 1, "m": 3, "n": 2, "o": 1, "p": 2, "q": 2, "r": 2, "s": 1, "t": 3, "u": 2, "v": 2,
    "w": 4, "x": 3, "y": 2, "z": 3,
}  # fmt: skip
PLAIN = ("lato-bold", "lato-regular", "nunito-extrabold", "barlow-condensed-semibold")


def strokes(text: str, face: str, height: float) -> dict[str, int]:
    line = {"id": "l", "kind": "line", "length": 3000}
    words = {"id": "t", "guide": "l", "text": text, "face": face, "height": height}
    (group,) = workpiece(document(guides=[line], letterings=[words], blank=None)).groups
    found = {}
    for letter, outline in group.areas_with(()):
        rings = [points for points, closed in flat_contours(outline) if closed]
        parts = Region.of_rings(rings).parts
        found[letter] = sum(len(columns_of(part)) for part in parts)
    return found


class Strokes(unittest.TestCase):
    def test_no_letter_has_more_strokes_than_a_person_would_sew(self) -> None:
        for face, height in (*product(PLAIN, (12.0,)), *product(PLAIN[:2], (40.0,))):
            found = strokes(" ".join(BY_HAND), face, height)
            more = {letter: count for letter, count in found.items() if count > BY_HAND[letter]}
            self.assertEqual(more, {}, (face, height))


if __name__ == "__main__":
    unittest.main()
