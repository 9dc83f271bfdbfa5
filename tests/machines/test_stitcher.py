"""The simulated stitcher, held against what was meant; its reading is pyembroidery's."""

from __future__ import annotations

import unittest

import numpy as np
import shapely

from tests.makings import document, workpiece
from ulvent.formats.thread_out import THREAD_FORMATS
from ulvent.machines.stitcher import Limits, Stitcher


class Sewing(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        line = {"id": "l", "kind": "line", "length": 100}
        words = {"id": "t", "guide": "l", "text": "PIE", "face": "lato-bold", "height": 14}
        cls.work = workpiece(document(guides=[line], letterings=[words], blank=None))
        cls.meant = np.concatenate([one.points for one in cls.work.embroidery.sewn])
        cls.file = THREAD_FORMATS["dst"].write(cls.work.embroidery)

    def off(self, machine: Stitcher) -> float:
        """The farthest needle point from one that was meant, mm."""
        came = np.concatenate([np.array(points) for _, points in machine.lines])
        move = (self.meant.max(axis=0) + self.meant.min(axis=0)) / 2.0
        move -= (came.max(axis=0) + came.min(axis=0)) / 2.0
        return float(shapely.distance(
            shapely.MultiPoint(self.meant), shapely.points(came + move)
        ).max())  # fmt: skip

    def test_it_sews_what_was_meant(self) -> None:
        machine = Stitcher()
        machine.load(self.file, "dst")
        self.assertEqual((machine.state, machine.wrong), ("ready", []))
        self.assertEqual(machine.go(100), "sewing")
        self.assertEqual(machine.sewn, 100)
        self.assertEqual(machine.go(), "done")
        self.assertLess(self.off(machine), 0.11)
        self.assertAlmostEqual(machine.sewn, len(self.meant), delta=0.02 * len(self.meant))

    def test_each_format_is_sewn_where_words_stand_so_far_apart_that_thread_is_cut(self) -> None:
        line = {"id": "l", "kind": "line", "length": 100}
        words = {"id": "t", "guide": "l", "text": "P          I", "face": "lato-bold", "height": 8}
        other = words | {"id": "u", "text": "E", "at": 90, "output": "engrave"}
        work = workpiece(document(guides=[line], letterings=[words, other], blank=None))
        ends = [one.points[-1] for one in work.embroidery.sewn[:-1]]
        begins = [one.points[0] for one in work.embroidery.sewn[1:]]
        self.assertGreater(np.hypot(*(np.array(begins) - ends).T).min(), 12.1)
        self.assertEqual(len(work.embroidery.colours), 2)
        for format in ("dst", "exp", "pes", "jef", "vp3"):
            machine = Stitcher()
            machine.load(THREAD_FORMATS[format].write(work.embroidery), format)
            self.assertEqual((machine.wrong, machine.go()), ([], "done"), format)
            self.assertEqual(len(machine.lines), len(work.embroidery.sewn), format)

    def test_its_thread_breaks_and_it_goes_back(self) -> None:
        whole, broken = Stitcher(), Stitcher(breaks_at=250)
        for machine in (whole, broken):
            machine.load(self.file, "dst")
        whole.go()
        self.assertEqual(broken.go(), "thread broken")
        self.assertEqual(broken.sewn, 250)
        self.assertEqual(broken.go(), "thread broken")
        broken.back(8)
        self.assertEqual(broken.go(), "done")
        self.assertEqual(broken.sewn, whole.sewn + 8)
        every = {point for _, points in broken.lines for point in points}
        self.assertEqual(every, {point for _, points in whole.lines for point in points})

    def test_what_is_beyond_its_limits_is_refused(self) -> None:
        for limits, word in (
            (Limits(width=20.0), "field"), (Limits(stitches=50), "room for 50"),
            (Limits(longest=1.0), "a stitch of"), (Limits(colours=0), "threads"),
        ):  # fmt: skip
            machine = Stitcher(limits)
            machine.load(self.file, "dst")
            self.assertEqual(machine.state, "refused")
            self.assertTrue(any(word in one for one in machine.wrong), machine.wrong)
            self.assertEqual((machine.go(), machine.lines), ("refused", []))
        machine = Stitcher()
        machine.load(b"no stitches at all", "pes")
        self.assertEqual(machine.state, "refused")


if __name__ == "__main__":
    unittest.main()
