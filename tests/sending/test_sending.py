"""Sending to the simulated machines: what comes out, what is written down, and what goes wrong."""

from __future__ import annotations

import os
import socket
import threading
import time
import tty
import unittest
from collections.abc import Callable
from uuid import uuid4

import numpy as np

from tests.makings import document, workpiece
from tests.reference.test_run_files import SIGN, apart, as_lines, outlines
from tests.throwaway import empty_engine
from ulvent.core.recipe.machine import Machine
from ulvent.formats.program import Program, program_of
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.machines import BeamMachine, Bed, Fault, Listening, Plotter
from ulvent.sending import NotAllowedError, NotNowError, Patience, Sender
from ulvent.store.jobs import Job, Jobs, MachineBusyError

LONGEST = 60.0
SIGN_WORK = workpiece(document(**SIGN))


def program(format: str, **run: object) -> Program:
    work = workpiece(document(**SIGN, run=run)) if run else SIGN_WORK
    blocks = RUN_FORMATS[format].blocks
    assert blocks is not None
    return program_of(work.run, format, list(blocks(work.run)))


def machine(format: str, address: str) -> Machine:
    return Machine.model_validate(
        {
            "id": "bench",
            "name": "Bench",
            "format": format,
            "bed": {"width": 600, "height": 400},
            "address": address,
        }
    )


class Programs(unittest.TestCase):
    def test_steps_hold_all_of_the_file_and_every_line_once(self) -> None:
        for format in ("plt", "gcode"):
            found = program(format)
            words = "".join(step.words for step in found.steps).encode()
            self.assertEqual(words, RUN_FORMATS[format].write(SIGN_WORK.run))
            ends = [0, *(step.last for step in found.steps)]
            self.assertEqual([step.first for step in found.steps], ends[:-1])
            self.assertEqual(found.lines, sum(len(one.tracks) for one in SIGN_WORK.run.passes))
            self.assertAlmostEqual(
                sum(step.length for step in found.steps),
                sum(one.drawn for one in SIGN_WORK.run.passes),
            )
            self.assertAlmostEqual(sum(step.seconds for step in found.steps), SIGN_WORK.run.seconds)
            self.assertEqual(Program.of(found.document()), found)

    def test_taken_up_at_a_line_it_tells_how_it_begins_and_what_the_pass_is(self) -> None:
        found = program("plt")
        step = found.step_of(found.lines - 1)
        kinds = [found.steps[index].kind for index in found.beginning_at(step)]
        self.assertEqual(kinds[:3], ["begin", "pass", "lines"])
        self.assertEqual(kinds[-1], "end")


class SendingTest(unittest.TestCase):
    def setUp(self) -> None:
        self.jobs = Jobs(empty_engine())

    def bench(
        self, format: str, fault: Fault | None = None, after: int = 0, pace: float = 0.0,
        soon: float = 0.3,
    ) -> tuple[Bed, Listening, Sender, Machine]:  # fmt: skip
        bed = Bed(600.0, 400.0, fault, after, pace=pace)
        listening = Listening(Plotter(bed) if format == "plt" else BeamMachine(bed))
        self.addCleanup(listening.close)
        address = f"127.0.0.1:{listening.port}"
        sender = Sender(self.jobs, [address], Patience(soon, 0.0))
        self.addCleanup(sender.close)
        return bed, listening, sender, machine(format, address)

    def until(self, job: Job, met: Callable[[Job], bool]) -> Job:
        ends = time.monotonic() + LONGEST
        while time.monotonic() < ends:
            found = self.jobs.get(job.id)
            if met(found):
                return found
            time.sleep(0.01)
        raise AssertionError(f"it stays {found.state}: {found.reason}")

    def ended(self, job: Job) -> Job:
        return self.until(job, lambda one: not one.active)

    def off(self, bed: Bed) -> float:
        return apart(as_lines([one.points for one in bed.done]), outlines(SIGN_WORK))


class Sent(SendingTest):
    def test_what_comes_out_is_what_was_meant_and_each_step_is_written_down(self) -> None:
        for format, near in (("plt", 0.025), ("gcode", 0.012)):
            bed, _, sender, to = self.bench(format)
            job = self.ended(sender.begin(to, uuid4(), "Sign", program(format)))
            self.assertEqual((job.state, job.reason), ("done", ""))
            self.assertLess(self.off(bed), near)
            self.assertEqual(job.answered, len(job.sequence))
            expected = [
                (place, what)
                for place in range(len(job.sequence))
                for what in ("begun", "answered")
            ]
            self.assertEqual(self.jobs.events(job.id), expected)

    def test_a_serial_device_is_spoken_to_as_well(self) -> None:
        ours, theirs = os.openpty()
        tty.setraw(ours)
        tty.setraw(theirs)
        bed = Bed(600.0, 400.0)
        plotter = Plotter(bed)

        def serve() -> None:
            try:
                while data := os.read(ours, 1000):
                    os.write(ours, plotter.take(data))
            except OSError:
                return

        threading.Thread(target=serve, daemon=True).start()
        address = os.ttyname(theirs)
        sender = Sender(self.jobs, [address])
        job = self.ended(sender.begin(machine("plt", address), uuid4(), "", program("plt")))
        self.assertEqual((job.state, job.reason), ("done", ""))
        self.assertLess(self.off(bed), 0.025)
        os.close(theirs)
        os.close(ours)

    def test_held_it_stands_still_and_stopped_it_ends(self) -> None:
        for format in ("plt", "gcode"):
            bed, _, sender, to = self.bench(format, pace=40.0)
            job = sender.begin(to, uuid4(), "Sign", program(format))
            with self.assertRaises(MachineBusyError):
                sender.begin(to, uuid4(), "Sign", program(format))
            self.until(job, lambda one: one.answered > 3)
            sender.hold(job.id)
            held = self.until(job, lambda one: one.state == "holding")
            done = len(bed.done)
            time.sleep(0.3)
            self.assertEqual(self.jobs.get(job.id).answered, held.answered)
            self.assertEqual(len(bed.done), done)
            sender.go_on(job.id)
            self.until(job, lambda one, held=held: one.answered > held.answered)
            sender.stop(job.id)
            stopped = self.ended(job)
            self.assertEqual(stopped.state, "stopped")
            self.assertLess(stopped.answered, len(stopped.sequence))
            with self.assertRaises(NotNowError):
                sender.go_on(job.id)
            # Taken up again, the rest comes out, and nothing is missing.
            step = job.sequence[stopped.answered]
            again = sender.begin(to, job.piece_id, "Sign", program(format), step, job.id)
            self.assertEqual(self.ended(again).state, "done")
            self.assertLess(self.off(bed), 0.025)

    def test_a_pause_asks_in_the_makers_words(self) -> None:
        passes = [
            {"id": "a", "tool": "pen", "works": [{"what": "draw"}]},
            {"id": "b", "tool": "blade", "works": [{"what": "cut"}], "pause": "blade in, please"},
        ]
        for format in ("plt", "gcode"):
            _, _, sender, to = self.bench(format)
            found = program(format, passes=passes)
            job = sender.begin(to, uuid4(), "Sign", found)
            asking = self.until(job, lambda one: one.state == "asking")
            self.assertEqual(asking.reason, "blade in, please")
            sender.go_on(job.id)
            self.assertEqual(self.ended(job).state, "done")

    def test_only_what_is_allowed_is_reached(self) -> None:
        _, _, sender, to = self.bench("plt")
        other = to.model_copy(update={"address": "127.0.0.1:9"})
        with self.assertRaises(NotAllowedError):
            sender.begin(other, uuid4(), "Sign", program("plt"))
        self.assertIsNone(self.jobs.at_machine("bench"))

    def test_a_machine_that_is_not_there_is_said(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as nobody:
            address = f"127.0.0.1:{nobody.getsockname()[1]}"
        sender = Sender(self.jobs, [address])
        job = self.ended(sender.begin(machine("plt", address), uuid4(), "", program("plt")))
        self.assertEqual((job.state, job.begun), ("failed", 0))
        self.assertIn("does not answer", job.reason)


class Failing(SendingTest):
    def test_each_fault_is_noticed_and_known_to_the_step(self) -> None:
        cases: list[tuple[str, Fault, str]] = [
            ("plt", "no sheet", "out of its reach, or there is no sheet"),
            ("plt", "garbled", "the plotter is at"),
            ("plt", "cut off", "cut"),
            ("plt", "power lost", "cut"),
            ("gcode", "no sheet", "no sheet"),
            ("gcode", "garbled", "not understood"),
            ("gcode", "buffer full", "buffer full"),
            ("gcode", "cut off", "cut"),
            ("gcode", "power lost", "cut"),
        ]
        for format, fault, words in cases:
            with self.subTest(format=format, fault=fault):
                # None of these is told by its silence: a busy machine may take its time.
                bed, _, sender, to = self.bench(format, fault, after=40, soon=10.0)
                job = self.ended(sender.begin(to, uuid4(), "Sign", program(format)))
                self.assertEqual(job.state, "failed")
                self.assertIn(words, job.reason)
                self.assertEqual(job.begun, job.answered + 1)
                # What was answered for is there, and at most one step more.
                last = self.jobs.program(job.id).steps[job.sequence[job.answered]].last
                self.assertLessEqual(len(bed.done), last)

    def test_a_plotter_that_loses_an_instruction_is_caught_where_it_does(self) -> None:
        for after in range(30, 60):
            bed, _, sender, to = self.bench("plt", "lost", after)
            job = sender.begin(to, uuid4(), "Sign", program("plt"))
            found = self.until(job, lambda one: one.state not in ("sending",))
            if found.active:
                self.assertEqual(found.state, "silent")
                sender.stop(job.id)
                found = self.ended(job)
            # What it lost drew nothing: then all of it came out. Otherwise it is said.
            if found.state == "done":
                self.assertLess(self.off(bed), 0.025, f"lost after {after}")

    def test_a_stall_is_said_and_gone_on_from(self) -> None:
        for format in ("plt", "gcode"):
            bed, _, sender, to = self.bench(format, "stall", after=60)
            job = sender.begin(to, uuid4(), "Sign", program(format))
            silent = self.until(job, lambda one: one.state == "silent")
            self.assertIn("says nothing", silent.reason)
            sender.go_on(job.id)
            self.assertEqual(self.ended(job).state, "done")
            self.assertLess(self.off(bed), 0.025)

    def test_what_nobody_sends_any_more_is_broken_off(self) -> None:
        _, _, sender, to = self.bench("plt", pace=20.0)
        job = sender.begin(to, uuid4(), "Sign", program("plt"))
        self.until(job, lambda one: one.answered > 2)
        sender.close()
        found = self.jobs.get(job.id)
        self.assertEqual(found.state, "broken-off")
        self.assertIn(found.begun - found.answered, (0, 1))
        self.assertEqual(self.jobs.break_off("again"), 0)
        # A step is begun only when the one before was answered for.
        events = self.jobs.events(job.id)
        self.assertEqual(events, sorted(events, key=lambda one: (one[0], one[1] == "answered")))
        self.assertEqual(np.unique([place for place, _ in events]).size, found.begun)
