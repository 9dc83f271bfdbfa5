"""`ulvent names`: lists from a shell."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math
import re
import shutil
import tempfile
import unittest
import zipfile
from pathlib import Path

import numpy as np
import pyembroidery
import shapely
import svgelements
import trimesh
from defusedxml import ElementTree

from tests.makings import document
from tests.shell import Answer, ulvent
from ulvent.core.series import matched
from ulvent.formats.words_file import read_table
from ulvent.names_command import Order, make

SVG = "{http://www.w3.org/2000/svg}"
TAG = {"kind": "tag", "width": 90, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8}
PATTERN = document(
    blank=TAG, edge="cut", title="Tag",
    guides=[{"id": "g", "kind": "line", "length": 60, "centre": [6, -3]}],
    letterings=[{"id": "w", "guide": "g", "text": "{name}", "face": "lato-bold", "height": 8,
                 "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even"}],
)  # fmt: skip
NAMES = [
    "name",
    "Ann",
    "O’Neill",
    "Łukasz",
    "",
    "a name far too long to go on any tag at all",
    "Ann",
]


def stitches(pattern: pyembroidery.EmbPattern) -> list[tuple[float, float]]:
    """Where the needle goes down, in tenths of a mm."""
    return [(x, y) for x, y, what in pattern.stitches if what == pyembroidery.STITCH]


class Names(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="ulvent-names-"))
        self.addCleanup(shutil.rmtree, self.folder)
        (self.folder / "tag.ulvent.json").write_text(json.dumps(PATTERN), encoding="utf-8")
        (self.folder / "list.csv").write_text("\n".join(NAMES), encoding="utf-8")

    def names(self, *more: str, out: str = "out") -> Answer:
        return ulvent(self.folder, "names", "tag.ulvent.json", "list.csv", "--out", out, *more)

    def files(self, out: str = "out") -> dict[str, bytes]:
        return {one.name: one.read_bytes() for one in sorted((self.folder / out).iterdir())}

    def titles(self, data: bytes) -> list[str]:
        return [one.text or "" for one in ElementTree.fromstring(data).iter(f"{SVG}title")]

    def test_a_file_for_each_row_with_its_words_as_they_were_typed(self) -> None:
        answer = self.names()
        self.assertEqual(answer.returncode, 1, answer.stderr)
        files = self.files()
        self.assertEqual(list(files), ["001-Ann.svg", "002-ONeill.svg", "003-Łukasz.svg",
                                       "006-Ann.svg"])  # fmt: skip
        self.assertEqual(self.titles(files["002-ONeill.svg"])[0], "O’Neill")
        for said in ("4 of 5 rows written, 1 not fitting", "1 empty: 4", "1 twice: 6",
                     "5 “a name far too long"):  # fmt: skip
            self.assertIn(said, answer.stdout)
        # The same as an export of the piece with that name in its words, but for the title.
        single = {**PATTERN, "title": "O’Neill"}
        single["letterings"] = [{**PATTERN["letterings"][0], "text": "O’Neill"}]
        (self.folder / "one.ulvent.json").write_text(json.dumps(single), encoding="utf-8")
        ulvent(self.folder, "export", "one.ulvent.json", "one.svg")
        self.assertEqual((self.folder / "one.svg").read_bytes(), files["002-ONeill.svg"])

    def test_rows_that_do_not_fit_are_written_where_they_are_wanted_anyway(self) -> None:
        answer = self.names("--anyway")
        self.assertEqual((answer.returncode, len(self.files())), (1, 5))

    def test_one_zip_and_other_formats(self) -> None:
        self.names("--zip", "--format", "stl")
        (packed,) = self.files().values()
        with zipfile.ZipFile(io.BytesIO(packed)) as package:
            self.assertEqual(len(package.namelist()), 4)
            part = trimesh.load(io.BytesIO(package.read("001-Ann.stl")), file_type="stl")
        self.assertTrue(part.is_watertight)

    def test_a_zip_holds_what_was_written_now_and_nothing_older(self) -> None:
        self.names("--anyway")
        self.names("--zip")
        with zipfile.ZipFile(self.folder / "out" / "names.zip") as package:
            self.assertEqual(len(package.namelist()), 4)
        # What does not fit, and was wanted then, lies there as it was.
        self.assertEqual(len(self.files()), 2)
        self.names("--zip", "--sheets", "210x100", out="sheets")
        with zipfile.ZipFile(self.folder / "sheets" / "names.zip") as package:
            self.assertEqual(package.namelist(), ["cutting-list.pdf", "sheet-001.svg"])

    def test_numbers_that_are_counted(self) -> None:
        answer = ulvent(self.folder, "names", "tag.ulvent.json", "08-11", "--out", "counted")
        self.assertEqual(answer.returncode, 0, answer.stderr)
        titles = [self.titles(data)[0] for data in self.files("counted").values()]
        self.assertEqual(titles, ["08", "09", "10", "11"])

    def test_sheets_hold_every_part_once(self) -> None:
        answer = self.names("--sheets", "210x100")
        files = self.files()
        self.assertEqual(list(files), ["cutting-list.pdf", "sheet-001.svg"])
        self.assertIn("4 parts on 1 sheet", answer.stdout)
        titles = self.titles(files["sheet-001.svg"])
        for name in ("Ann", "O’Neill", "Łukasz"):
            self.assertIn(name, titles)
        root = ElementTree.fromstring(files["sheet-001.svg"])
        self.assertEqual((root.get("width"), root.get("height")), ("210mm", "100mm"))

    def test_a_number_lies_beside_each_part_and_touches_nothing(self) -> None:
        """By shapely, from the written file: each number is nearest to the part of its row."""
        answer = self.names("--sheets", "210x120", "--mark", "3", "--turns", "0,90,180,270")
        self.assertIn("4 parts on 1 sheet", answer.stdout)
        root = ElementTree.fromstring(self.files()["sheet-001.svg"])
        drawn: list[tuple[str, shapely.MultiLineString]] = []
        for part in root.iter(f"{SVG}g"):
            if re.fullmatch(r"(cut|draw)-part-\d+", part.get("id", "")):
                title, lines = part.find(f"{SVG}title").text, []
                for path in part.iter(f"{SVG}path"):
                    line = svgelements.Path(path.get("d"))
                    line *= svgelements.Matrix(path.get("transform") or "")
                    for one in line.reify().as_subpaths():
                        points = svgelements.Path(one).npoint(np.linspace(0, 1, 80))
                        lines.append(shapely.LineString(points))
                drawn.append((title, shapely.MultiLineString(lines)))
        parts = [one for one in drawn if not one[0].startswith("number")]
        numbers = [one for one in drawn if one[0].startswith("number")]
        self.assertEqual([name for name, _ in parts], ["Ann", "O’Neill", "Łukasz", "Ann"])
        self.assertEqual([name for name, _ in numbers], [f"number {k}" for k in (1, 2, 3, 6)])
        room = shapely.box(4.9, -115.1, 205.1, -4.9)  # round digits reach below their line
        for place, (_, number) in enumerate(numbers):
            away = [number.distance(part) for _, part in parts]
            self.assertAlmostEqual(away[place], 1.0, delta=0.05)
            others = [away[k] for k in range(4) if k != place]
            others += [number.distance(one) for _, one in numbers if one is not number]
            self.assertGreater(min(others), 1.95)
            self.assertTrue(room.contains(number))

    def test_one_file_for_all_is_as_long_as_it_takes(self) -> None:
        answer = self.names("--sheets", "100", "--gap", "4")
        self.assertIn("4 parts on 1 sheet", answer.stdout)
        root = ElementTree.fromstring(self.files()["sheet-001.svg"])
        # Four tags of 40 mm, 4 mm apart, 5 mm free at both ends.
        self.assertEqual((root.get("width"), root.get("height")), ("100mm", "182mm"))

    def test_a_plate_of_parts_is_as_full_as_its_parts_and_none_meets_another(self) -> None:
        """By trimesh: each part closed, where it lies, and the volume of all is theirs."""
        self.names("--format", "stl", out="single")
        single = [
            trimesh.load(io.BytesIO(data), file_type="stl")
            for data in self.files("single").values()
        ]
        answer = self.names("--sheets", "210x100", "--format", "3mf")
        self.assertIn("4 parts on 1 sheet", answer.stdout)
        files = self.files()
        self.assertEqual(list(files), ["cutting-list.pdf", "plate-001.3mf"])
        plate = trimesh.load(io.BytesIO(files["plate-001.3mf"]), file_type="3mf")
        parts = plate.dump()
        self.assertEqual(len(parts), 4)
        self.assertTrue(all(part.is_watertight for part in parts))
        for part in single:
            self.assertTrue(
                any(math.isclose(part.volume, one.volume, rel_tol=1e-5) for one in parts)
            )
        for one, two in itertools.combinations(parts, 2):
            apart = np.maximum(one.bounds[0] - two.bounds[1], two.bounds[0] - one.bounds[1])[:2]
            self.assertGreater(apart.max(), 1.9)
        bounds = np.array([part.bounds for part in parts])
        self.assertGreaterEqual(bounds[:, 0, :2].min(), 5.0 - 1e-3)
        self.assertLessEqual(bounds[:, 1, 0].max(), 205.0 + 1e-3)

    def test_badges_in_a_hoop_are_sewn_colour_by_colour_where_they_lie(self) -> None:
        """By pyembroidery: as many stitches as single files have, in as few colours as one."""
        self.names("--format", "exp", out="single")
        single = [pyembroidery.read_exp(io.BytesIO(one)) for one in self.files("single").values()]
        self.names("--sheets", "210x100", "--format", "exp")
        files = self.files()
        self.assertEqual(list(files), ["cutting-list.pdf", "hoop-001.exp"])
        hoop = pyembroidery.read_exp(io.BytesIO(files["hoop-001.exp"]))
        needles = [len(stitches(one)) for one in single]
        self.assertEqual(len(stitches(hoop)), sum(needles))
        changes = [one.count_color_changes() for one in single]
        self.assertEqual(hoop.count_color_changes(), max(changes))
        # One part after the other, each as it is by itself but for its place and a turn.
        at = np.array(stitches(hoop)) / 10.0
        begin = 0
        placed = []
        for one in single:
            mine, alone = at[begin : begin + len(stitches(one))], np.array(stitches(one)) / 10.0
            begin += len(alone)
            size, other = np.ptp(mine, axis=0), np.ptp(alone, axis=0)
            self.assertLess(min(abs(size - other).max(), abs(size - other[::-1]).max()), 0.25)
            placed.append(mine)
        for one, two in itertools.combinations(placed, 2):
            gap = np.maximum(one.min(0) - two.max(0), two.min(0) - one.max(0)).max()
            self.assertGreater(gap, 2.0)

    def test_the_same_bytes_however_many_work_at_it(self) -> None:
        """In this process, and by two others that hand their rows back as they come."""
        self.names(out="once")
        rows = matched(read_table((self.folder / "list.csv").read_bytes()).rows, ["name"])
        (self.folder / "again").mkdir()
        order = Order(PATTERN, rows, self.folder, self.folder / "again")
        said: list[str] = []
        self.assertEqual(make(order, said.append, processes=2), 1)
        self.assertIn("4 of 5 rows written, 1 not fitting", said)
        self.assertEqual(self.files("once"), self.files("again"))

    def test_wrong_lists_and_words_are_refused_in_one_line(self) -> None:
        for wrong, words in (
            (["--format", "doc"], "--format"),
            (["--sheets", "wide"], "--sheets"),
            (["--sheets", "20x20"], "does not go on"),
            (
                ["--sheets", "210x100", "--format", "dxf"],
                "--format: sheets are written as svg or 3mf or dst",
            ),
            (["--sheets", "210x100", "--format", "3mf", "--mark", "3"], "--mark: parts are"),
            (["--sheets", "210x100", "--mark", "0.1"], "--mark: must be 0.5 mm or more"),
            (["--sheets", "nanx100"], "is no size"),
            (["--name", "{words}"], "rows 1 and 6 would both be “Ann.svg”"),
        ):
            answer = self.names(*wrong)
            with self.subTest(words):
                self.assertEqual((answer.returncode, len(answer.stderr.splitlines())), (2, 1))
                self.assertIn(words, answer.stderr)
        (self.folder / "list.csv").write_text('"open', encoding="utf-8")
        self.assertEqual(self.names().returncode, 2)


class Tables(unittest.TestCase):
    def test_rfc_4180_and_the_standard_library_agree(self) -> None:
        """RFC 4180, section 2: quotes, separators and line breaks within a field."""
        text = '"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx\r\n"a""b", c ,\r\n'
        rows = list(csv.reader(io.StringIO(text, newline="")))
        wanted = [[cell.replace("\r\n", "\n") for cell in row] for row in rows]
        self.assertEqual(read_table(text.encode()).rows, wanted)

    def test_encodings_are_found_and_said(self) -> None:
        russian = "имя\nАнна Каренина\nКонстантин Левин\nАлексей Вронский\nСтепан Облонский\n"
        for text, encoding in (
            ("Łódź\n", "utf-8"), ("Łódź\n", "utf-16"), ("José\n", "cp1252"),
            (russian * 3, "cp1251"),
        ):  # fmt: skip
            found = read_table(text.encode(encoding))
            with self.subTest(encoding):
                self.assertEqual(found.rows[0][0], text.splitlines()[0])
                self.assertEqual(found.encoding, encoding)
