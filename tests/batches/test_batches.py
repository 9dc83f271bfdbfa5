"""Batches: made from the queue, the same as from a shell, and nothing made twice or lost."""

from __future__ import annotations

import csv
import io
import json
import shutil
import tempfile
import unittest
from pathlib import Path
from typing import Any
from uuid import UUID

from sqlalchemy import text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from tests.batches.working import Workshop, begun, tag
from tests.shell import ulvent
from tests.throwaway import empty_engine
from ulvent.batches.making import MOST_ATTEMPTS
from ulvent.core.base.errors import PieceError
from ulvent.core.series.nested_sheets import Sheet
from ulvent.crew import WorkerDiedError
from ulvent.formats.row_files import Wanted
from ulvent.store.batch_stages import NoSuchBatchError
from ulvent.store.queue import outstanding

NAMES = ["Ann", "O’Neill", "Łukasz", "Ann", "Bartholomew Christabel", "Zoë 🍎", "  Di "]


class BatchesTest(unittest.TestCase):
    def setUp(self) -> None:
        self.engine = empty_engine()
        self.shop = Workshop(self.engine)
        self.batches = self.shop.batches

    def made(self, piece: dict[str, Any], wanted: Wanted | None = None) -> UUID:
        batch = begun(self.batches, piece, wanted or Wanted())
        self.shop.work_off()
        self.assertEqual(self.batches.get(batch).state, "done", self.batches.get(batch).reason)
        return batch

    def files(self, batch: UUID) -> dict[int, bytes]:
        return {made.number: data for made, data in self.batches.files(batch)}

    def from_a_shell(self, piece: dict[str, Any], *options: str) -> dict[str, bytes]:
        """What `ulvent names` makes of the same list, written by the standard library."""
        folder = Path(tempfile.mkdtemp(prefix="ulvent-batch-"))
        self.addCleanup(shutil.rmtree, folder)
        pattern = {key: value for key, value in piece.items() if key != "names"}
        (folder / "p.json").write_text(json.dumps(pattern), encoding="utf-8")
        rows = io.StringIO(newline="")
        csv.writer(rows).writerows([["name"], *(one["cells"] for one in piece["names"]["rows"])])
        (folder / "l.csv").write_bytes(rows.getvalue().encode())
        ulvent(folder, "names", "p.json", "l.csv", "--out", "out", *options)
        return {one.name: one.read_bytes() for one in sorted((folder / "out").iterdir())}


class Made(BatchesTest):
    def test_the_same_bytes_as_from_a_shell(self) -> None:
        piece = tag(NAMES)
        files = self.files(self.made(piece))
        shell = self.from_a_shell(piece)
        self.assertEqual(list(files.values()), list(shell.values()))
        # A letter that the face lacks is a fault, and nothing is written of it.
        self.assertEqual(sorted(files), [1, 2, 3, 4, 5, 7])

    def test_one_height_for_all_rows(self) -> None:
        piece = tag(NAMES[:5], one_height=True)
        batch = self.made(piece)
        self.assertEqual(
            list(self.files(batch).values()),
            list(self.from_a_shell(piece, "--one-height").values()),
        )
        single = [tag([name]) for name in NAMES[:5]]
        least = []
        for one in single:
            self.made(one | {"names": {**one["names"], "one_height": True}})
            least.append(self.batches.all()[0][0].heights["w"])
        self.assertEqual(self.batches.get(batch).heights, {"w": min(least)})

    def test_sheets_are_the_same_as_from_a_shell_and_hold_every_part_once(self) -> None:
        piece = tag([f"Name {k}" for k in range(11)])
        batch = self.made(piece, Wanted(sheet=Sheet(210, 150, offcuts=((100, 50), (20, 20)))))
        options = ("--sheets", "210x150", "--offcut", "20x20", "--offcut", "100x50")
        shell = self.from_a_shell(piece, *options)
        sheets = list(self.batches.sheets(batch))
        self.assertEqual(
            [sheet.size for _, sheet, _ in sheets], [(100, 50), (210, 150), (210, 150)]
        )
        self.assertEqual(
            [data for _, _, data in sheets],
            [data for name, data in shell.items() if name.endswith(".svg")],
        )
        lying = sorted(number for _, sheet, _ in sheets for number, _ in sheet.lie)
        self.assertEqual(lying, list(range(1, 12)))
        self.assertLessEqual(self.batches.get(batch).said["least"], len(sheets))

    def test_a_row_may_lie_on_sheets_more_than_once(self) -> None:
        piece = tag(["Ann", "Bea"])
        piece["names"]["rows"][1]["times"] = 3
        batch = self.made(piece, Wanted(sheet=Sheet(210, 100)))
        ((_, (_, lie), data),) = self.batches.sheets(batch)
        self.assertEqual(sorted(number for number, _ in lie), [1, 2, 2, 2])
        assert data is not None
        self.assertEqual(data.count(b"<title>Bea"), 3)

    def test_a_head_that_names_no_field_any_more_is_none(self) -> None:
        self.assertEqual(sorted(self.files(self.made(tag(["Ann", "Bea"], head=["town"])))), [1, 2])

    def test_rows_that_are_left_out_or_have_a_height_of_their_own(self) -> None:
        piece = tag(["Ann", "Bea", "Cid"])
        piece["names"]["rows"][0]["left_out"] = True
        piece["names"]["rows"][1]["heights"] = {"w": 4.0}
        files = self.files(self.made(piece))
        self.assertEqual(sorted(files), [2, 3])
        small = tag(["Bea"])
        small["letterings"][0] |= {"height": 4.0, "fit": None}
        self.assertEqual(files[2], next(iter(self.from_a_shell(small).values())))

    def test_letters_changed_by_hand_in_one_row_alone(self) -> None:
        piece = tag(["Ann", "Bea"])
        nudge = {"letter": 1, "across": 1.5, "size": 1.2}
        piece["names"]["rows"][1]["hand"] = {"w": {"letters": [nudge], "words": "Bea"}}
        files = self.files(self.made(piece))
        moved = tag(["Bea"])
        moved["letterings"][0] |= {"hand": [nudge], "hand_words": "Bea"}
        self.assertEqual(files[2], next(iter(self.from_a_shell(moved).values())))
        self.assertEqual(files[1], self.files(self.made(tag(["Ann", "Bea"])))[1])

    def test_what_does_not_fit_says_why_and_is_written_where_it_is_wanted(self) -> None:
        piece = tag(["Ann", "🍎"])
        batch = self.made(piece)
        (unfit,) = self.batches.unfit(batch, 10)
        self.assertEqual((unfit.number, unfit.title), (2, "🍎"))
        self.assertIn("has no letter", unfit.reason)
        self.assertEqual(sorted(self.files(self.made(piece, Wanted(anyway=True)))), [1, 2])


class Once(BatchesTest):
    def test_a_changed_row_alone_is_made_anew(self) -> None:
        names = [f"Name {k}" for k in range(12)]
        first = self.made(tag(names))
        self.assertEqual(self.shop.hands.asked, ["make_row"] * 12)
        self.shop.hands.asked.clear()
        second = self.made(tag(names[:4] + ["Another"] + names[5:]))
        self.assertEqual(self.shop.hands.asked, ["make_row"])
        one, two = self.files(first), self.files(second)
        self.assertEqual([k for k in one if one[k] != two[k]], [5])
        # Another format, and another pattern, are made of something else.
        self.shop.hands.asked.clear()
        self.made(tag(names[:2]), Wanted(format="dxf"))
        self.assertEqual(self.shop.hands.asked, ["make_row"] * 2)

    def test_a_step_that_is_done_again_changes_nothing(self) -> None:
        batch = begun(self.batches, tag(NAMES[:3]), Wanted())
        for _ in range(2):
            self.shop.making.rows(batch, [1, 2, 3])
        self.assertEqual(self.shop.hands.asked, ["make_row"] * 3)
        self.assertEqual(self.batches.get(batch).state, "done")
        before = self.files(batch)
        self.shop.work_off()
        self.assertEqual(self.files(batch), before)

    def test_both_the_batch_and_its_tasks_are_there_or_neither(self) -> None:
        with self.engine.begin() as connection:
            connection.execute(text("ALTER TABLE queue.procrastinate_jobs RENAME TO away"))
        try:
            with self.assertRaisesRegex(OperationalError, "procrastinate_jobs"):
                begun(self.batches, tag(NAMES), Wanted())
        finally:
            with self.engine.begin() as connection:
                connection.execute(text("ALTER TABLE queue.away RENAME TO procrastinate_jobs"))
        self.assertEqual(self.batches.all(), [])

    def test_what_runs_and_has_nothing_in_the_queue_is_taken_up_again(self) -> None:
        batch = begun(self.batches, tag(NAMES[:3]), Wanted())
        with self.engine.begin() as connection:
            connection.execute(text("SET LOCAL search_path TO queue"))
            connection.execute(text("DELETE FROM procrastinate_jobs"))
        self.shop.work_off()
        self.assertEqual(self.batches.progress(batch).made, 0)
        self.shop.making.steps.take_up()
        self.shop.making.steps.take_up()
        self.shop.work_off()
        self.assertEqual(self.batches.get(batch).state, "done")
        self.assertEqual(self.shop.hands.asked, ["make_row"] * 3)


class Ended(BatchesTest):
    def test_a_row_that_ends_whoever_makes_it_is_given_up(self) -> None:
        def end(_task: str) -> None:
            if len(self.shop.hands.asked) % 2:
                raise WorkerDiedError("killed")

        self.shop.hands.spoil = end
        batch = begun(self.batches, tag(["Ann"]), Wanted())
        for _ in range(MOST_ATTEMPTS):
            self.shop.hands.asked.clear()
            with self.assertRaises(WorkerDiedError):
                self.shop.making.rows(batch, [1])
            self.assertEqual(self.batches.get(batch).state, "running")
        self.shop.making.rows(batch, [1])
        self.assertEqual(self.batches.get(batch).state, "done")
        self.assertEqual(self.batches.progress(batch).lost, MOST_ATTEMPTS)
        self.assertIn(f"begun {MOST_ATTEMPTS} times", self.batches.unfit(batch, 1)[0].reason)

    def test_an_error_of_our_own_ends_a_row_and_not_the_batch(self) -> None:
        def wrong(_task: str) -> None:
            if len(self.shop.hands.asked) == 2:
                raise ZeroDivisionError

        self.shop.hands.spoil = wrong
        batch = self.made(tag(["Ann", "Bea", "Cid"]))
        self.assertEqual(sorted(self.files(batch)), [1, 3])
        self.assertIn("error of Ulvent’s own", self.batches.unfit(batch, 9)[0].reason)

    def test_the_database_may_go_in_the_middle(self) -> None:
        def away(_task: str) -> None:
            if len(self.shop.hands.asked) == 2:
                raise OperationalError("", {}, Exception("the connection was lost"))

        self.shop.hands.spoil = away
        batch = begun(self.batches, tag(["Ann", "Bea", "Cid"]), Wanted())
        self.shop.work_off()
        self.shop.making.steps.take_up()
        self.shop.work_off()
        self.assertEqual(sorted(self.files(batch)), [1, 3])

    def test_parts_that_go_on_no_sheet_end_it_with_a_word(self) -> None:
        batch = begun(self.batches, tag(["Ann"]), Wanted(sheet=Sheet(50, 50)))
        self.shop.work_off()
        found = self.batches.get(batch)
        self.assertEqual(found.state, "failed")
        self.assertIn("does not go on", found.reason)

    def test_a_cancelled_one_is_not_made_further_and_keeps_what_is_made(self) -> None:
        batch = begun(self.batches, tag([f"Name {k}" for k in range(20)]), Wanted())
        self.shop.making.rows(batch, list(range(1, 9)))
        self.batches.cancel(batch)
        # What waits behind it need not see off what is left of it.
        with Session(self.engine) as session:
            self.assertEqual(outstanding(session, batch), 0)
        self.shop.work_off()
        self.assertEqual(self.batches.progress(batch).made, 8)
        self.assertEqual(sorted(self.files(batch)), list(range(1, 9)))
        self.assertEqual(self.batches.get(batch).state, "cancelled")

    def test_one_that_was_taken_away_has_no_steps(self) -> None:
        batch = begun(self.batches, tag(["Ann"]), Wanted())
        self.batches.forget(batch)
        self.shop.work_off()
        self.assertEqual(self.shop.hands.asked, [])
        with self.assertRaises(NoSuchBatchError):
            self.batches.get(batch)


class Many(BatchesTest):
    def test_the_oldest_that_have_ended_are_forgotten_and_then_what_they_made(self) -> None:
        for k in range(53):
            self.made(tag([f"Name {k % 3}"]))
        self.assertEqual(len(self.batches.all()), 51)
        with Session(self.engine) as session:
            self.assertEqual(session.scalar(text("SELECT count(*) FROM kept_row")), 3)

    def test_a_wrong_field_is_refused_before_anything_is_kept(self) -> None:
        piece = tag(["Ann"], head=["name"])
        piece["letterings"][0]["text"] = "{name} {town}"
        with self.assertRaises(PieceError):
            begun(self.batches, piece, Wanted())
        self.assertEqual(self.batches.all(), [])


if __name__ == "__main__":
    unittest.main()
