"""Workers: bounds of time and memory, what becomes of one that ends, and whose turn it is."""

from __future__ import annotations

import os
import signal
import tempfile
import time
import unittest
from concurrent.futures import Future
from pathlib import Path
from typing import Any
from unittest.mock import patch

from tests.crew import tasks
from ulvent.core.base.errors import PieceError
from ulvent.crew import Crew, GivenUpError, StoppedError, Worker, WorkerDiedError

ENOUGH = 30.0
"""Processor seconds that no task here comes near to."""


def alive(pid: int) -> bool:
    """Whether a process is there and still runs; one that nobody has waited for does not."""
    try:
        state = Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()[0]
    except FileNotFoundError:
        return False
    return state != "Z"


class Bounds(unittest.TestCase):
    def setUp(self) -> None:
        self.worker = Worker([])
        self.addCleanup(self.worker.close)

    def asked(self, task: Any, *args: Any, seconds: float = ENOUGH) -> Any:
        return self.worker.ask(seconds, task, *args).result(60)

    def assert_works(self) -> None:
        self.assertEqual(self.asked(tasks.doubled, 21), 42)

    def test_a_task_that_takes_too_long_is_given_up_where_it_is(self) -> None:
        """The error names the field, what is done, and what would do instead."""
        with self.assertRaises(PieceError) as raised:
            self.asked(tasks.endless, seconds=0.5)
        (problem,) = raised.exception.problems
        self.assertEqual(problem.field, "letterings[1].repeat")
        self.assertEqual(
            problem.reason,
            "setting 8000 letters takes more than 0.5 seconds; ask for fewer repeats",
        )
        self.assert_works()

    def test_one_that_has_said_nothing_is_given_up_as_well(self) -> None:
        with self.assertRaisesRegex(GivenUpError, "more than 0.3 seconds"):
            self.asked(tasks.endless_without_a_name, seconds=0.3)
        self.assert_works()

    def test_what_was_said_is_gone_with_its_task(self) -> None:
        with self.assertRaises(PieceError):
            self.asked(tasks.endless, seconds=1.5)  # on a busy machine it is begun late
        with self.assertRaises(GivenUpError):
            self.asked(tasks.endless_without_a_name, seconds=0.3)

    def test_only_time_of_the_processor_counts_for_one_that_waits(self) -> None:
        self.assert_works()  # it has begun
        self.assertEqual(self.asked(tasks.slept, 2.2, seconds=2.0), 2.2)

    def test_one_that_waits_without_end_is_given_up_too(self) -> None:
        with self.assertRaises(GivenUpError):
            self.asked(tasks.slept, 1000.0, seconds=0.2)

    def test_memory_has_a_bound(self) -> None:
        with self.assertRaises(PieceError) as raised:
            self.asked(tasks.hungry)
        self.assertEqual(
            str(raised.exception),
            "guides[0]: reading a line takes more memory than there is for it; "
            "take a line of fewer points",
        )
        self.assert_works()

    def test_memory_has_a_bound_where_nothing_was_said(self) -> None:
        with self.assertRaisesRegex(GivenUpError, "more memory"):
            self.asked(tasks.grown)
        self.assert_works()

    def test_a_task_may_hold_itself_to_less(self) -> None:
        self.assertEqual(self.asked(tasks.taken_within, 60, 100), 60_000_000)
        with self.assertRaisesRegex(GivenUpError, "more memory"):
            self.asked(tasks.taken_within, 140, 100)
        self.assertEqual(self.asked(tasks.taken_within, 60, 100), 60_000_000)

    def test_what_it_was_held_to_ends_with_it(self) -> None:
        first = self.asked(tasks.taken_within, 1, 10)
        self.assertEqual(first, 1_000_000)
        self.assertEqual(self.asked(tasks.taken_within, 60, 100), 60_000_000)

    def test_one_that_has_grown_is_replaced_when_it_rests(self) -> None:
        rested: list[Worker] = []
        first = self.asked(tasks.kept, 20)
        self.worker.rest(rested.append)
        self.assertEqual(self.asked(tasks.pid), first)
        self.asked(tasks.kept, 180)
        self.worker.rest(rested.append)
        self.assertNotEqual(self.asked(tasks.pid), first)
        self.assertEqual(rested, [self.worker] * 2)

    def test_errors_come_back_as_they_were(self) -> None:
        with self.assertRaisesRegex(PieceError, "height: must be larger than 0"):
            self.asked(tasks.wrong)
        with self.assertRaisesRegex(RuntimeError, "LoudError: too loud"):
            self.asked(tasks.loud)
        self.assert_works()


class Ends(unittest.TestCase):
    def setUp(self) -> None:
        self.worker = Worker([])
        self.addCleanup(self.worker.close)

    def test_one_that_breaks_is_replaced(self) -> None:
        with self.assertRaises(GivenUpError):
            self.worker.ask(ENOUGH, tasks.crashed).result(60)
        self.assertEqual(self.worker.ask(ENOUGH, tasks.doubled, 4).result(60), 8)

    def test_what_was_being_done_when_one_was_killed_is_done_again(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            mark = str(Path(folder) / "mark")
            done = self.worker.ask(ENOUGH, tasks.killed_the_first_time, mark)
            self.assertEqual(done.result(60), "done")

    def test_what_is_killed_each_time_is_not_tried_for_ever(self) -> None:
        with self.assertRaises(WorkerDiedError):
            self.worker.ask(ENOUGH, tasks.killed).result(60)
        self.assertEqual(self.worker.ask(ENOUGH, tasks.doubled, 4).result(60), 8)

    def test_one_that_is_killed_between_tasks_is_not_noticed(self) -> None:
        for _ in range(50):
            pid = self.worker.ask(ENOUGH, tasks.pid).result(60)
            os.kill(pid, signal.SIGKILL)
            self.assertNotEqual(self.worker.ask(ENOUGH, tasks.pid).result(60), pid)

    def test_what_is_not_wanted_any_more_is_stopped(self) -> None:
        pid = self.worker.ask(ENOUGH, tasks.pid).result(60)
        endless = self.worker.ask(ENOUGH, tasks.endless)
        self.worker.not_wanted()
        self.assertRaises(StoppedError, endless.result, 60)
        self.assertFalse(alive(pid))
        self.assertEqual(self.worker.ask(ENOUGH, tasks.doubled, 4).result(60), 8)

    def test_what_is_not_wanted_may_still_end_by_itself(self) -> None:
        self.worker.ask(ENOUGH, tasks.pid).result(60)
        slow = self.worker.ask(ENOUGH, tasks.slept, 0.2)
        self.worker.not_wanted()
        self.assertEqual(slow.result(60), 0.2)

    def test_nothing_is_left_when_it_is_closed(self) -> None:
        pid = self.worker.ask(ENOUGH, tasks.pid).result(60)
        endless = self.worker.ask(ENOUGH, tasks.endless)
        time.sleep(0.3)
        self.worker.close()
        self.assertRaises(StoppedError, endless.result, 60)
        self.assertFalse(alive(pid))


class Turns(unittest.TestCase):
    def crew(self, size: int) -> Crew:
        crew = Crew([], size)
        self.addCleanup(crew.close)
        return crew

    def test_a_page_has_the_worker_again_that_it_had(self) -> None:
        crew = self.crew(3)
        first = crew.take("a").result(5)
        other = crew.take("b").result(5)
        crew.give_back(first)
        crew.give_back(other)
        for page, worker in (("b", other), ("a", first), ("b", other)):
            with crew.taken(page) as again:
                self.assertIs(again, worker)

    def test_the_page_that_was_served_longest_ago_is_next(self) -> None:
        crew = self.crew(1)
        served: list[str] = []
        worker = crew.take("a").result(5)
        waiting = [(page, crew.take(page)) for page in ("a", "a", "b", "c", "a")]
        for page, turn in waiting:
            turn.add_done_callback(lambda _, page=page: served.append(page))
        for _ in waiting:
            crew.give_back(worker)
        self.assertEqual(served, ["b", "c", "a", "a", "a"])

    def test_a_turn_that_is_not_waited_for_is_left_out(self) -> None:
        crew = self.crew(1)
        worker = crew.take("a").result(5)
        gone, next_one = crew.take("b"), crew.take("c")
        self.assertTrue(gone.cancel())
        crew.give_back(worker)
        self.assertIs(next_one.result(5), worker)

    def test_what_can_wait_never_has_all_workers(self) -> None:
        crew = self.crew(3)
        proofs = [crew.take(f"p{index}", patient=True) for index in range(4)]
        self.assertEqual([proof.done() for proof in proofs], [True, True, False, False])
        drag = crew.take("a")
        self.assertTrue(drag.done())
        crew.give_back(proofs[0].result())
        self.assertTrue(proofs[2].done())

    def test_one_that_is_given_back_busy_is_free_when_it_is_done(self) -> None:
        crew = self.crew(1)
        worker = crew.take("a").result(5)
        slow: Future[float] = worker.ask(ENOUGH, tasks.slept, 0.4)
        crew.give_back(worker)
        turn = crew.take("b")
        self.assertFalse(turn.done())
        turn.result(30)
        self.assertTrue(slow.done())


class Kinds(unittest.TestCase):
    def test_the_bound_of_memory_is_one_of_what_a_task_adds(self) -> None:
        """A worker that has much to begin with has as much left as any other."""
        with patch("tests.crew.tasks._KEPT", []):
            worker = Worker(["ulvent.core.proof"], bound=100_000_000)
            self.addCleanup(worker.close)
            self.assertGreater(worker.ask(ENOUGH, tasks.kept, 60).result(60), 0)
            with self.assertRaises(GivenUpError):
                worker.ask(ENOUGH, tasks.kept, 60).result(60)


if __name__ == "__main__":
    unittest.main()
