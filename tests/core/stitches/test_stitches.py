"""Thread: stitches counted by hand, and coverage by a raster of the thread (Pillow, SciPy)."""

from __future__ import annotations

import io
import math
import unittest
from datetime import date
from unittest.mock import patch

import numpy as np
import pyembroidery
import shapely
from scipy.spatial import cKDTree

from tests.areas import as_shapely
from tests.makings import document, workpiece
from tests.thread_witness import letters_seen, way_seen
from ulvent.core.base.arrays import Points
from ulvent.core.base.errors import PieceError
from ulvent.core.base.remembered import forget_all, keep_in
from ulvent.core.recipe.sewing import Sewing
from ulvent.core.shapes import Region
from ulvent.core.stitches import CLOTHS, Embroidery, What
from ulvent.core.stitches.columns import columns_of
from ulvent.core.stitches.threads import filled, row_sections, running, satin
from ulvent.core.workshop import Workpiece
from ulvent.formats.thread_out import THREAD_FORMATS

COTTON = CLOTHS["woven-cotton"]


def bar(width: float, length: float) -> Region:
    return Region.of_rings([np.array([[0.0, 0.0], [length, 0.0], [length, width], [0.0, width]])])


def words(text: str, face: str, height: float, stitch: str = "auto") -> Workpiece:
    line = {"id": "l", "kind": "line", "length": 2.0 * height * len(text)}
    made = {"id": "t", "guide": "l", "text": text, "face": face, "height": height}
    sewing = {"letterings": [{"of": "t", "stitch": stitch}]}
    return workpiece(document(guides=[line], letterings=[made], blank=None, sewing=sewing))


def needle_points(work: Workpiece) -> Points:
    return np.concatenate([one.points for one in work.embroidery.sewn])


class Elsewhere:
    """Where letters are kept: here."""

    def __init__(self) -> None:
        self.kept: dict[bytes, bytes] = {}

    def get(self, name: bytes) -> bytes | None:
        return self.kept.get(name)

    def put(self, name: bytes, data: bytes) -> None:
        assert name not in self.kept
        self.kept[name] = data


class Once(unittest.TestCase):
    def test_a_letter_that_another_process_has_made_is_not_made_again(self) -> None:
        """To the last bit, with counters, dots and single lines; another height is another one."""
        place = Elsewhere()
        keep_in(place)
        self.addCleanup(keep_in)
        for face in ("eb-garamond", "hershey-sans"):
            forget_all()
            first = needle_points(words("Qui8&i", face, 17))
            kept = len(place.kept)
            self.assertGreater(kept, 4)
            forget_all()
            with (
                patch("ulvent.core.stitches.letter_threads.columns_of") as columns,
                patch("ulvent.core.stitches.letter_threads._letter") as letter,
            ):
                again = needle_points(words("Qui8&i", face, 17))
            self.assertEqual((columns.call_count, letter.call_count), (0, 0))
            np.testing.assert_array_equal(again, first)
            self.assertEqual(len(place.kept), kept)
            needle_points(words("Q", face, 18))
            self.assertGreater(len(place.kept), kept)


class ByHand(unittest.TestCase):
    def test_a_straight_bar_in_satin(self) -> None:
        """A bar of 3 by 20 mm: a stitch each 0.2 mm along it, from rail to rail, wider by the
        pull on both sides."""
        (column,) = columns_of(bar(3.0, 20.0))
        np.testing.assert_allclose(column.widths, 3.0, atol=0.01)
        points = satin(column, COTTON)
        self.assertAlmostEqual(len(points), 20.0 / 0.2 + 1, delta=2)
        across = np.abs(np.diff(points[:, 1]))
        np.testing.assert_allclose(across, 3.0 + 2.0 * COTTON.pull, atol=0.02)
        along = np.diff(points[::2, 0])
        np.testing.assert_allclose(np.abs(along), COTTON.spacing, atol=0.01)

    def test_a_rectangle_in_rows(self) -> None:
        """20 by 8 mm at 0.4 mm: 20 rows, and in each about 20 / 3.5 stitches."""
        (section,) = row_sections(bar(8.0, 20.0), COTTON, 0.0)
        for corner in ([0.0, 8.0], [20.0, 8.0]):
            last = filled(section, COTTON, np.array(corner))[-1]
            self.assertLess(math.dist(last, corner), COTTON.spacing, "it is left elsewhere")
        points = filled(section, COTTON, np.zeros(2))
        levels = np.unique(points[:, 1].round(3))
        self.assertEqual(len(levels), 20)
        self.assertAlmostEqual(len(points) / 20.0, 20.0 / 3.5 + 1.0, delta=1.0)
        longest = np.hypot(*np.diff(points, axis=0).T).max()
        self.assertLess(longest, 2.0 * COTTON.row)

    def test_wide_satin_is_split_and_running_keeps_its_length(self) -> None:
        (column,) = columns_of(bar(8.5, 60.0))
        self.assertLess(np.hypot(*np.diff(satin(column, COTTON), axis=0).T).max(), COTTON.split)
        line = running(np.array([[0.0, 0.0], [22.0, 0.0], [22.0, 11.0]]), 2.2)
        np.testing.assert_allclose(np.hypot(*np.diff(line, axis=0).T), 2.2)

    def test_what_is_thin_is_a_running_line_and_what_is_wide_is_filled(self) -> None:
        kinds = {one.kind for one in self.sewn("il", "lato-regular", 5.5).colours[0].sewn}
        self.assertEqual(kinds, {What.RUN})
        kinds = {one.kind for one in self.sewn("I", "archivo-black", 60.0).colours[0].sewn}
        self.assertEqual(kinds, {What.ROWS})

    def test_a_piece_says_its_cloth_and_what_a_lettering_is_made_with(self) -> None:
        line = {"id": "l", "kind": "line", "length": 100}
        made = {"id": "t", "guide": "l", "text": "OK", "face": "lato-bold", "height": 18}
        plain = workpiece(document(guides=[line], letterings=[made])).embroidery
        for stitch, kind in (
            ("rows", What.ROWS), ("run", What.RUN), ("bean", What.RUN), ("satin", What.SATIN),
            ("edge", What.RUN),
        ):  # fmt: skip
            sewing = {"cloth": "felt", "letterings": [{"of": "t", "stitch": stitch}]}
            found = workpiece(document(guides=[line], letterings=[made], sewing=sewing)).embroidery
            self.assertEqual({one.kind for one in found.colours[0].sewn}, {kind})
            self.assertEqual(found.cloth.title, "Felt")
        wider = workpiece(document(guides=[line], letterings=[made], sewing={"spacing": 0.8}))
        count = [len(one.colours[0].sewn[0].points) for one in (plain, wider.embroidery)]
        self.assertAlmostEqual(count[0] / count[1], 2.0, delta=0.4)
        with self.assertRaises(PieceError) as caught:
            workpiece(document(sewing={"letterings": [{"of": "nobody"}]}))
        self.assertEqual(caught.exception.problems[0].field, "sewing.letterings[0].of")

    def test_rows_reach_both_edges_of_what_they_fill(self) -> None:
        """Of 7.9 mm none is left open that is wider than half a row."""
        (section,) = row_sections(bar(7.9, 20.0), COTTON, 0.0)
        levels = np.unique(section.axis[:, 1].round(3))
        self.assertAlmostEqual(levels[0], 7.9 / 20 / 2, delta=0.002)
        self.assertAlmostEqual(levels[-1], 7.9 - 7.9 / 20 / 2, delta=0.002)

    def test_rungs_fan_round_a_bend_that_is_tighter_than_the_stroke(self) -> None:
        """A hook of 1 mm inside and 9 mm outside: on the outer edge no place is left out."""
        outer, inner = (
            shapely.box(-one, -30, one, 0) | shapely.Point(0, 0).buffer(one, 64) for one in (9, 1)
        )
        (column,) = columns_of(Region.of_rings([np.array((outer - inner).exterior.coords)[-2::-1]]))
        outer_rail = max(column.left, column.right, key=lambda rail: float(rail[:, 1].max()))
        arc = outer_rail[outer_rail[:, 1] > 0.0]
        way = np.degrees(np.arctan2(arc[:, 1], arc[:, 0]))
        self.assertGreater(np.ptp(way), 170.0)
        self.assertLess(np.abs(np.diff(way)).max(), 5.0)
        np.testing.assert_allclose(np.hypot(*arc.T), 9.0, atol=0.05)

    def test_lines_go_through_a_letter_without_a_jump(self) -> None:
        """In a face whose strokes are too thin for satin, and where a line is asked for; dots
        are apart."""
        work = words("EHKMmRksx", "eb-garamond", 9.0)
        self.assertEqual({one.kind for one in work.embroidery.sewn}, {What.RUN, What.SATIN})
        self.assertEqual(len(work.embroidery.sewn), 9)
        for stitch in ("run", "bean", "quilted"):
            alone = {"of": "t", "letters": [{"place": at, "stitch": stitch} for at in range(4)]}
            work = words("EHXi", "lato-bold", 20.0)
            piece = work.piece.model_copy(update={"sewing": Sewing(letterings=(alone,))})
            found = workpiece(piece).embroidery
            self.assertEqual(len(found.sewn), 5, stitch)
            self.assertEqual({one.kind for one in found.sewn}, {What.RUN})

    def test_a_dot_that_is_smaller_than_a_stitch_is_sewn(self) -> None:
        sewn = words("i.", "lato-regular", 4.0, "run").embroidery.sewn
        self.assertEqual(len(sewn), 3)
        self.assertTrue(all(len(one.points) > 1 for one in sewn))

    def sewn(self, text: str, face: str, height: float) -> Embroidery:
        return words(text, face, height).embroidery


class Covered(unittest.TestCase):
    def test_letters_are_covered(self) -> None:
        some, more = "AHKRtaeQ&", "AHIKRStaegokQ&"
        for face, height, letters in (
            ("lato-bold", 8.0, some), ("lato-bold", 20.0, more), ("lato-bold", 60.0, some),
            ("eb-garamond", 30.0, more), ("archivo-black", 20.0, some),
            # Strokes of a quarter of a millimetre, serifs that end in nothing, and thick slabs.
            ("bitter-variable", 8.0, "AwUQa"), ("cinzel-semibold", 8.0, "VXRJa"),
            ("alfa-slab-one", 8.0, "ATGFa"),
        ):  # fmt: skip
            found = letters_seen(words(letters, face, height, "satin"), COTTON.pull)
            self.assertGreater(
                np.mean([one.covered for one in found.values()]), 0.995, (face, found)
            )
            self.assertLess(np.mean([one.short for one in found.values()]), 0.03, face)
            self.assertLess(np.mean([one.twice for one in found.values()]), 0.08, face)
            for letter, one in found.items():
                self.assertGreater(one.covered, 0.98, (face, letter))
                self.assertLess(one.hole, 0.1, (face, height, letter))
                self.assertLess(one.outside, 0.003, (face, letter))

    def test_what_is_only_on_its_way_is_hardly_seen_in_rows(self) -> None:
        work = words("KRxd", "lato-bold", 12.0, "rows")
        (group,) = work.groups
        seen = [
            way_seen(as_shapely(outline), [o for o in work.embroidery.sewn if o.letter == text])
            for text, outline in group.areas_with(())
        ]
        self.assertEqual(len(seen), 4)
        self.assertLess(max(seen), 0.04)
        self.assertLess(np.mean(seen), 0.02)


class Files(unittest.TestCase):
    def test_every_format_is_read_back_with_the_same_stitches(self) -> None:
        """pyembroidery reads what was written: same needle points within 0.1 mm, no move over
        12.1 mm, one colour."""
        work = words("Oak & I", "lato-bold", 18.0)
        wanted = np.concatenate([one.points for c in work.embroidery.colours for one in c.sewn])
        readers = {
            "dst": pyembroidery.DstReader, "exp": pyembroidery.ExpReader,
            "pes": pyembroidery.PesReader, "jef": pyembroidery.JefReader,
            "vp3": pyembroidery.Vp3Reader,
        }  # fmt: skip
        self.assertEqual(set(readers), {one for one in THREAD_FORMATS if "." not in one})
        for name, reader in readers.items():
            data = THREAD_FORMATS[name].write(work.embroidery)
            self.assertEqual(data, THREAD_FORMATS[name].write(work.embroidery))
            self.assertNotIn(str(date.today().year).encode(), data)  # nor on another day
            pattern = pyembroidery.EmbPattern()
            reader.read(io.BytesIO(data), pattern)
            stitches = [s for s in pattern.stitches if s[2] == pyembroidery.STITCH]
            points = np.array([[x / 10.0, -y / 10.0] for x, y, _ in stitches])
            # Some formats are centred by their box, which is rounded by itself.
            box = wanted.max(axis=0) + wanted.min(axis=0)
            points += (box - points.max(axis=0) - points.min(axis=0)) / 2.0
            near = cKDTree(wanted)
            points += np.median(wanted[near.query(points)[1]] - points, axis=0)
            self.assertLess(near.query(points)[0].max(), 0.1, name)
            self.assertAlmostEqual(len(points), len(wanted), delta=0.02 * len(wanted))
            moves = np.array([[x, y] for x, y, _ in pattern.stitches])
            self.assertLessEqual(np.abs(np.diff(moves, axis=0)).max(), 121, name)
