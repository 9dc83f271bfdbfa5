"""The command line: what each command does, says and refuses."""

from __future__ import annotations

import errno
import io
import json
import math
import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from contextlib import redirect_stderr
from pathlib import Path
from typing import Any
from unittest.mock import patch
from xml.etree import ElementTree

import ezdxf
import typer

from tests import zoo
from tests.makings import document, proofed, with_lettering
from tests.shell import Answer, ulvent
from ulvent import cli
from ulvent.core.recipe import TOOL_SHEETS
from ulvent.formats.piece_file import read_piece
from ulvent.shipped_faces import FONTS

ULVENT = Path(sys.executable).with_name("ulvent")


class CommandLine(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="ulvent-cli-"))
        self.addCleanup(shutil.rmtree, self.folder)

    def run_ulvent(self, *arguments: str) -> Answer:
        return ulvent(self.folder, *arguments)

    def test_it_is_a_process_of_its_own(self) -> None:
        for arguments, code in ((["measure", "p.json"], 0), (["measure", "none.json"], 2)):
            self.write(document(), "p.json")
            answer = subprocess.run([ULVENT, *arguments], cwd=self.folder, check=False,
                                    capture_output=True, text=True)  # fmt: skip
            self.assertEqual(answer.returncode, code, answer.stderr)
            here = self.run_ulvent(*arguments)
            self.assertEqual((answer.stdout, answer.stderr), (here.stdout, here.stderr))

    def write(self, piece: Any, name: str = "piece.ulvent.json") -> str:
        text = piece if isinstance(piece, str) else json.dumps(piece)
        (self.folder / name).write_text(text, encoding="utf-8")
        return name

    def assert_refused(self, answer: Answer, *words: str) -> None:
        self.assertEqual(answer.returncode, 2, answer.stderr)
        self.assertEqual(answer.stdout, "")
        self.assertEqual(len(answer.stderr.splitlines()), 1, answer.stderr)
        for word in words:
            self.assertIn(word, answer.stderr)

    def test_a_file_is_written_whole_or_not_at_all(self) -> None:
        """A disk that is full is said in words, and what was there before stays (ENOSPC)."""
        out = self.folder / "name.svg"
        out.write_text("before", encoding="ascii")
        full = OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        said = io.StringIO()
        with (
            patch("ulvent.formats.whole_file.os.fsync", side_effect=full),
            redirect_stderr(said),
            self.assertRaises(typer.Exit),
        ):
            cli._write(out, b"<svg/>")
        self.assertIn("cannot be written: No space left on device", said.getvalue())
        self.assertEqual([one.name for one in self.folder.iterdir()], ["name.svg"])
        self.assertEqual(out.read_text(encoding="ascii"), "before")

    def test_measure_prints_every_letter(self) -> None:
        answer = self.run_ulvent("measure", self.write(document()))
        self.assertEqual(answer.returncode, 0, answer.stderr)
        found = json.loads(answer.stdout)
        self.assertAlmostEqual(found["guides"][0]["length"], 753.9822368615503)
        self.assertEqual(len(found["letterings"][0]["clusters"]), 16)

    def test_export_writes_what_the_ending_names(self) -> None:
        piece = self.write(document())
        for name, sign in (("out.svg", "<svg "), ("OUT.DXF", "$INSUNITS")):
            with self.subTest(name):
                self.assertEqual(self.run_ulvent("export", piece, name).returncode, 0)
                self.assertIn(sign, (self.folder / name).read_text(encoding="utf-8"))
        self.assertNotIn("guide", (self.folder / "out.svg").read_text(encoding="utf-8"))
        self.run_ulvent("export", piece, "with.svg", "--guides")
        self.assertIn('id="guide-Rim"', (self.folder / "with.svg").read_text(encoding="utf-8"))

    def test_export_with_a_fault_open_writes_nothing_and_says_what_would_be_missing(self) -> None:
        piece = self.write(with_lettering(height=90))
        for name in ("out.svg", "out.dxf"):
            answer = self.run_ulvent("export", piece, name)
            self.assertEqual(answer.returncode, 1)
            self.assertRegex(answer.stderr, r"fault: name: [\d.]+ mm .* no room for")
            self.assertIn("7 of 16 letters are not in the file", answer.stderr)
            self.assertFalse((self.folder / name).exists())

    def test_a_file_that_is_wanted_anyway_says_itself_what_it_lacks(self) -> None:
        piece = self.write(with_lettering(height=90))
        lacks = "7 of 16 letters are not in the file"
        for name in ("out.svg", "out.dxf"):
            self.assertEqual(self.run_ulvent("export", piece, name, "--anyway").returncode, 0)
        svg = ElementTree.parse(self.folder / "out.svg")
        self.assertEqual(svg.findtext("{http://www.w3.org/2000/svg}desc"), lacks)
        document = ezdxf.readfile(self.folder / "out.dxf")
        self.assertEqual(document.header.custom_vars.get("Left out"), lacks)
        whole = self.write(with_lettering())
        self.run_ulvent("export", whole, "whole.svg")
        self.assertNotIn("<desc>", (self.folder / "whole.svg").read_text())

    def test_export_names_what_is_wrong_with_what_it_has_written(self) -> None:
        """Not with the piece from before it was prepared: bridges mend what falls out."""
        stencil = next(one for one in TOOL_SHEETS if one.use == "removed")
        piece = document(tool_sheets=[stencil.model_dump()])
        piece["letterings"][0].update(text="ROAD", height=24)
        said = self.run_ulvent("export", self.write(piece), "out.svg").stderr
        self.assertIn("fall out", said)
        piece["letterings"][0]["prepare"] = {"bridges": {"width": 3}}
        self.assertNotIn("fall out", self.run_ulvent("export", self.write(piece), "out.svg").stderr)

    def test_export_does_not_name_what_is_accepted(self) -> None:
        piece = with_lettering(height=90)
        found = json.loads(self.run_ulvent("proof", self.write(piece)).stdout)
        self.assertTrue(found)
        piece["accepted"] = [{"key": f["key"], "figure": f["figure"]} for f in found]
        self.assertEqual(self.run_ulvent("export", self.write(piece), "out.svg").stderr, "")

    def test_proof_exits_1_on_a_fault(self) -> None:
        good = self.run_ulvent("proof", self.write(document()))
        self.assertEqual((good.returncode, json.loads(good.stdout)), (0, []))
        bad = self.run_ulvent("proof", self.write(with_lettering(text="A仮")))
        self.assertEqual(bad.returncode, 1)
        self.assertEqual(json.loads(bad.stdout)[0]["kind"], "missing-letters")

    def test_proof_holds_a_piece_against_named_sheets(self) -> None:
        piece = self.write(document())
        answer = self.run_ulvent(
            "proof", piece, "--sheet", "stencil-blade", "--sheet", "vinyl-blade"
        )
        self.assertEqual(answer.returncode, 1, answer.stderr)
        found = json.loads(answer.stdout)
        falling = [finding for finding in found if finding["kind"] == "falls-out"]
        self.assertEqual({finding["sheet"] for finding in falling}, {"stencil-blade"})
        self.assertTrue(all(finding["places"] for finding in falling))
        accepted = [{"key": f["key"], "sheet": f["sheet"], "figure": f["figure"]} for f in found]
        piece = self.write(document(accepted=accepted))
        again = self.run_ulvent("proof", piece, "--sheet", "stencil-blade")
        self.assertEqual(again.returncode, 0, again.stdout)
        self.assert_refused(self.run_ulvent("proof", piece, "--sheet", "gone"), "gone", "vinyl")

    def test_what_cannot_be_prepared_is_refused_and_nothing_is_written(self) -> None:
        line = {"id": "rim", "kind": "line", "length": 300}
        broken = document(guides=[line])
        broken["letterings"][0]["prepare"] = {"taken_out": {"of": "rim"}}
        piece = self.write(broken)
        answer = self.run_ulvent("export", piece, "out.svg")
        self.assert_refused(answer, "letterings[0].prepare.taken_out.of")
        self.assertFalse((self.folder / "out.svg").exists())

    def test_a_wrong_piece_exits_2_and_writes_nothing(self) -> None:
        for piece, words in (
            (with_lettering(height="x"), ["letterings[0].height", "number"]),
            (document(colour=1), ["colour", "not a field"]),
            (with_lettering(face="none"), ["letterings[0].face", "no face"]),
            (with_lettering(face="none.ttf"), ["letterings[0].face", "none.ttf"]),
            ("{", ["line 1"]),
            ("", ["JSON"]),
        ):
            with self.subTest(words[0]):
                name = self.write(piece)
                self.assert_refused(self.run_ulvent("measure", name), name, *words)
                self.assert_refused(self.run_ulvent("proof", name), name, *words)
                self.assert_refused(self.run_ulvent("export", name, "out.svg"), name, *words)
                self.assertFalse((self.folder / "out.svg").exists())

    def test_files_that_are_not_there_or_not_writable(self) -> None:
        self.assert_refused(self.run_ulvent("measure", "none.ulvent.json"), "No such file")
        piece = self.write(document())
        self.assert_refused(self.run_ulvent("export", piece, "none/out.svg"), "No such file")
        self.assert_refused(self.run_ulvent("export", piece, "out.xyz"), "one of .svg, .dxf, .plt")

    def test_runs_are_written_whole_or_one_pass_of_them(self) -> None:
        passes = [{"id": "draw", "tool": "pen", "works": [{"what": "cut"}]},
                  {"id": "cut", "tool": "blade", "works": [{"what": "cut"}]}]  # fmt: skip
        piece = self.write(document(run={"passes": passes}))
        first = {"plt": b"IN;", "gcode": b"G21", "pdf": b"%PDF", "png": b"\x89PNG",
                 "run-sheet.pdf": b"%PDF", "dst": b"LA:", "pes": b"#PES"}  # fmt: skip
        for ending, begins in first.items():
            answer = self.run_ulvent("export", piece, f"out.{ending}")
            self.assertEqual(answer.returncode, 0, answer.stderr)
            self.assertTrue((self.folder / f"out.{ending}").read_bytes().startswith(begins))
        for name in ("2", "cut"):
            answer = self.run_ulvent("export", piece, "one.plt", "--pass", name)
            self.assertEqual(answer.returncode, 0, answer.stderr)
            self.assertEqual((self.folder / "one.plt").read_text().count("SP"), 2)
        self.assert_refused(self.run_ulvent("export", piece, "x.dst", "--pass", "1"), "--pass")
        figures = json.loads(self.run_ulvent("run", piece).stdout)
        self.assertEqual([one["title"] for one in figures["passes"]], ["Pen", "Blade"])
        self.assertAlmostEqual(
            sum(one["seconds"] for one in figures["passes"]), figures["seconds"], places=2
        )
        said = "there are: 1 (Pen), 2 (Blade)"
        self.assert_refused(self.run_ulvent("export", piece, "x.plt", "--pass", "3"), "pass", said)
        self.assert_refused(self.run_ulvent("export", piece, "x.plt", "--guides"), "--guides")
        self.assertFalse((self.folder / "x.plt").exists())

    def test_a_font_file_beside_the_piece(self) -> None:
        shutil.copy(FONTS / "lato-bold.ttf", self.folder / "mine.ttf")
        here, shipped = (
            json.loads(self.run_ulvent("measure", self.write(with_lettering(face=face))).stdout)
            for face in ("mine.ttf", "lato-bold")
        )
        self.assertEqual(here, shipped)
        (self.folder / "broken.ttf").write_bytes(b"no font")
        answer = self.run_ulvent("measure", self.write(with_lettering(face="broken.ttf")))
        self.assert_refused(answer, "letterings[0].face", "not a font file")

    def test_a_path_guide(self) -> None:
        guides = [{"id": "rim", "kind": "path", "d": "M0 0 C10 20 30 20 40 0"}]
        piece = with_lettering(height=4, text="Hi")
        piece["guides"] = guides
        found = json.loads(self.run_ulvent("measure", self.write(piece)).stdout)
        self.assertFalse(found["guides"][0]["closed"])

    def test_every_kind_of_guide_is_measured(self) -> None:
        """One piece with all of them, and two that lean on others."""
        guides = [{"id": f"g{i}", **recipe} for i, recipe in enumerate(zoo.RECIPES.values())]
        guides.append({"id": "flat", "kind": "laid-flat", "guide": "g0"})
        guides.append({"id": "out", "kind": "parallel", "guide": "g0", "distance": 5})
        piece = self.write(document(guides=guides, letterings=[]))
        found = json.loads(self.run_ulvent("measure", piece).stdout)["guides"]
        lengths = {guide["id"]: guide["length"] for guide in found}
        self.assertEqual(len(lengths), len(guides))
        self.assertAlmostEqual(lengths["flat"], math.pi * 90)
        self.assertAlmostEqual(lengths["out"], math.pi * 100)

    def test_a_wrong_guide_is_one_line_that_names_the_field(self) -> None:
        for recipe, line in (
            ({"kind": "spiral", "inner": 5}, "guides[0].outer: is missing: give two of"),
            ({"kind": "parallel", "guide": "x", "distance": 1}, "there is no guide “x”"),
            (
                {"kind": "polygon", "sides": 5, "across": 9, "radius": 8},
                "guides[0].radius: must be",
            ),
        ):
            piece = self.write(document(guides=[{"id": "rim", **recipe}], letterings=[]))
            self.assert_refused(self.run_ulvent("measure", piece), line)

    def test_demo_pieces_are_written_and_have_no_fault(self) -> None:
        names = self.run_ulvent("demo", "pieces").stdout.split("\n")
        self.assertIn("pieces/barrel-head.ulvent.json", names)
        self.assertEqual(self.run_ulvent("proof", "pieces/van-sign.ulvent.json").returncode, 0)
        for name in filter(None, names):
            piece = read_piece((self.folder / name).read_bytes())
            self.assertEqual(proofed(piece).faults, (), name)

    def test_help_names_every_command(self) -> None:
        text = self.run_ulvent("--help").stdout
        for command in ("measure", "export", "proof", "serve", "demo"):
            self.assertIn(command, text)


if __name__ == "__main__":
    unittest.main()
