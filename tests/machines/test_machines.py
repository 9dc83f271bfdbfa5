"""Simulated machines: they do what they are told, say what is wrong, and fail when asked to.

What came out is held against the outlines of the piece, as `tests.reference.test_run_files` reads
them from its SVG file.
"""

from __future__ import annotations

import re
import signal
import socket
import subprocess
import tempfile
import unittest
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from tests.makings import document, workpiece
from tests.reference.test_run_files import SIGN, apart, as_lines, outlines
from tests.running import ULVENT
from ulvent.core.workshop import Workpiece
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.machines import BeamMachine, Bed, Fault, Listening, Plotter
from ulvent.machines.came_out import farthest_apart, picture


def sign(**more: Any) -> Workpiece:
    return workpiece(document(**SIGN, **more))


def written(work: Workpiece, format: str) -> bytes:
    return RUN_FORMATS[format].write(work.run)


def told(machine: BeamMachine, work: Workpiece) -> list[str]:
    return [
        answer
        for line in written(work, "gcode").decode().splitlines()
        for answer in machine.take(line)
    ]


class Plotters(unittest.TestCase):
    def test_it_draws_what_was_meant_however_the_stream_is_cut_up(self) -> None:
        data = written(sign(), "plt")
        for size in (1, 7, 4096, len(data)):
            plotter = Plotter()
            for at in range(0, len(data), size):
                plotter.take(data[at : at + size])
            lines = as_lines([one.points for one in plotter.bed.done])
            self.assertLess(apart(lines, outlines(sign())), 0.025)
            self.assertEqual(plotter.take(b"OE;"), b"0\r")
            self.assertEqual(plotter.take(b"OS;"), b"16\r")

    def test_it_stays_on_its_bed(self) -> None:
        plotter = Plotter(Bed(100.0, 100.0))
        plotter.take(written(sign(), "plt"))
        self.assertEqual(plotter.take(b"OS;OE;OE;"), b"48\r6\r0\r")
        points = np.concatenate([one.points for one in plotter.bed.done])
        self.assertTrue((points >= 0.0).all() and (points <= 100.0).all())

    def test_it_says_what_it_does_not_know(self) -> None:
        plotter = Plotter()
        self.assertEqual(plotter.take(b"QQ1,2;OE;"), b"1\r")
        self.assertEqual(plotter.take(b"PU1;OE;"), b"2\r")
        self.assertEqual(plotter.take(b"SP1;PU40,80;PD80,80;OA;"), b"80,80,1\r")
        plotter.take(b"PD400,4")
        self.assertEqual(plotter.take(b"\x1b.KOA;"), b"80,80,0\r")

    def test_a_stall_is_gone_on_from(self) -> None:
        plotter = Plotter(Bed(600.0, 400.0, "stall", 30))
        plotter.take(written(sign(), "plt"))
        self.assertTrue(plotter.stalled)
        some = len(plotter.bed.done)
        plotter.take(b"\x1b.(")
        self.assertGreater(len(plotter.bed.done), some)
        lines = as_lines([one.points for one in plotter.bed.done])
        self.assertLess(apart(lines, outlines(sign())), 0.025)


class BeamMachines(unittest.TestCase):
    def test_it_burns_what_was_meant_and_says_ok_to_each_line(self) -> None:
        machine = BeamMachine()
        answers = told(machine, sign())
        self.assertEqual(set(answers), {"ok"})
        self.assertEqual(len(answers), written(sign(), "gcode").count(b"\n"))
        lines = as_lines([one.points for one in machine.bed.done])
        self.assertLess(apart(lines, outlines(sign())), 0.012)
        self.assertEqual(machine.take("status"), ["idle 0.000 0.000 5.000"])

    def test_it_mills_in_depth(self) -> None:
        passes = [
            {"id": "c", "tool": "router", "works": [{"what": "cut"}], "depth": 3, "step": 1.5}
        ]
        machine = BeamMachine()
        self.assertEqual(set(told(machine, sign(run={"passes": passes}))), {"ok"})
        lines = as_lines([one.points for one in machine.bed.done])
        self.assertLess(apart(lines, outlines(sign())), 0.012)
        passes[0]["depth"] = 45
        (refused, *_) = [
            one for one in told(BeamMachine(), sign(run={"passes": passes})) if one != "ok"
        ]
        self.assertIn("out of range: Z", refused)

    def test_it_refuses_what_it_must_not_do(self) -> None:
        cases = {
            "G1 X5 Y5": "a move without a feed",
            "M3 S500\nG0 X5 Y5": "travels with its tool at work",
            "G1 X700 Y5 F600": "out of range",
            "G3 X10 Y0 I3 J0 F600": "not equally far from its centre",
            "G1 X5 Y5 F600 !!": "not understood",
            "G77 X1": "G77 is not known",
        }
        for text, reason in cases.items():
            with self.subTest(text):
                machine = BeamMachine()
                answers = [answer for line in text.splitlines() for answer in machine.take(line)]
                self.assertIn(reason, answers[-1])
                self.assertIn("has stopped", machine.take("G0 X1")[0])
                self.assertEqual(machine.take("stop"), ["ok"])
                self.assertEqual(machine.take("G0 X1"), ["ok"])

    def test_a_pause_holds_lines_and_goes_on(self) -> None:
        machine = BeamMachine()
        self.assertEqual(machine.take("M0 (blade in)"), ["ok"])
        self.assertEqual(machine.take("G0 X9 Y9"), [])
        self.assertTrue(machine.take("status")[0].startswith("paused 0.000"))
        self.assertEqual(machine.take("resume"), ["ok", "ok"])
        self.assertTrue(machine.take("status")[0].startswith("running 9.000"))

    def test_each_fault_is_seen(self) -> None:
        seen: dict[Fault, str] = {
            "no sheet": "error: no sheet", "garbled": "error: not understood",
            "buffer full": "error: buffer full",
        }  # fmt: skip
        for fault, said in seen.items():
            machine = BeamMachine(Bed(600.0, 400.0, fault, 20 * (fault != "no sheet")))
            answers = told(machine, sign())
            wrong = next(one for one in answers if one != "ok")
            self.assertIn(said, wrong)
            self.assertEqual(answers.index(wrong), machine.bed.taken)
        lost = BeamMachine(Bed(600.0, 400.0, "lost", 20))
        self.assertEqual(len(told(lost, sign())), written(sign(), "gcode").count(b"\n") - 1)


class CameOut(unittest.TestCase):
    def test_a_figure_and_a_picture_say_what_is_wrong(self) -> None:
        meant = [track.points for one in sign().run.passes for track in one.tracks]
        good, bad = Plotter(), Plotter(Bed(600.0, 400.0, "garbled", 10))
        for plotter in (good, bad):
            plotter.take(written(sign(), "plt"))
        done = [[np.array(one.points) for one in plotter.bed.done] for plotter in (good, bad)]
        self.assertLess(farthest_apart(meant, done[0]), 0.1)
        self.assertGreater(farthest_apart(meant, done[1]), 1.0)
        self.assertEqual(farthest_apart(meant, []), float("inf"))
        reds = []
        for plotter in (good, bad):
            with tempfile.TemporaryFile() as file:
                file.write(picture(plotter.bed, meant))
                with Image.open(file) as image:
                    pixels = np.asarray(image.convert("RGB")).astype(int)
            reds.append(int(((pixels[..., 0] - pixels[..., 1]) > 60).sum()))
        self.assertEqual(reds[0], 0)
        self.assertGreater(reds[1], 50)


class OverTcp(unittest.TestCase):
    def test_a_plotter_listens_and_a_second_sender_follows(self) -> None:
        plotter = Plotter(Bed(600.0, 400.0, "cut off", 25))
        with Listening(plotter) as listening:
            data = written(sign(), "plt")
            with socket.create_connection(("127.0.0.1", listening.port), timeout=5) as sender:
                sender.sendall(data)
                self.assertEqual(sender.recv(10), b"")
            some = len(plotter.bed.done)
            with socket.create_connection(("127.0.0.1", listening.port), timeout=5) as sender:
                sender.sendall(data + b"OS;")
                self.assertEqual(sender.recv(10), b"16\r")
            self.assertGreater(len(plotter.bed.done), some)

    def test_the_command_starts_each_and_draws_what_came_out(self) -> None:
        for kind, format in (("plotter", "plt"), ("beam", "gcode")):
            with self.subTest(kind), tempfile.TemporaryDirectory() as folder:
                out = Path(folder, "out.png")
                with subprocess.Popen(
                    [ULVENT, "machine", kind, "--picture", out], stdout=subprocess.PIPE, text=True
                ) as process:
                    assert process.stdout is not None
                    found = re.search(r"127\.0\.0\.1:(\d+)", process.stdout.readline())
                    assert found is not None
                    with socket.create_connection(
                        ("127.0.0.1", int(found[1])), timeout=5
                    ) as sender:
                        sender.sendall(
                            written(sign(), format) + (b"OS;" if kind == "plotter" else b"status\n")
                        )
                        answer = b""
                        while b"16\r" not in answer and b"idle" not in answer:
                            answer += sender.recv(4096)
                    process.send_signal(signal.SIGINT if kind == "beam" else signal.SIGTERM)
                    rest = process.stdout.read()
                    self.assertEqual(process.wait(20), 0)
                self.assertIn(
                    f"{sum(len(one.tracks) for one in sign().run.passes)} lines done", rest
                )
                with Image.open(out) as image:
                    self.assertEqual(image.size, (2400, 1600))


if __name__ == "__main__":
    unittest.main()
