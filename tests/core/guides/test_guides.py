"""Guides from recipes: circles, and path data held against svgelements."""

from __future__ import annotations

import math
import unittest

import numpy as np
import svgelements
from hypothesis import given
from hypothesis import strategies as st

from ulvent.core.base.errors import CurveError
from ulvent.core.curves import CircularArc
from ulvent.core.guides import guide_curve, named_places
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.guides.pathdata import curve_from_path_data


def circle(**changes: object) -> CircleGuide:
    return CircleGuide.model_validate({"id": "c", "kind": "circle", "diameter": 240, **changes})


class Circles(unittest.TestCase):
    def test_starts_at_the_top_and_turns_clockwise(self) -> None:
        curve = guide_curve(circle())
        quarter = curve.length / 4
        np.testing.assert_allclose(
            curve.points([0, quarter, 2 * quarter]), [[0, 120], [120, 0], [0, -120]], atol=1e-9
        )
        # Left of travel is outside: letters stand upright along the top.
        np.testing.assert_allclose(curve.frames(0).normals, [[0, 1]], atol=1e-12)

    def test_turned_the_other_way(self) -> None:
        curve = guide_curve(circle(start=0, turn="counterclockwise", centre=[5, 6]))
        np.testing.assert_allclose(curve.points(curve.length / 4), [[5, 126]], atol=1e-9)

    def test_named_places_are_where_they_say(self) -> None:
        for turn in ("clockwise", "counterclockwise"):
            guide = circle(start=200, turn=turn)
            curve = guide_curve(guide)
            for name, at in {"top": (0, 120), "right": (120, 0), "bottom": (0, -120)}.items():
                with self.subTest(f"{turn} {name}"):
                    station = named_places(curve)[name] * curve.length
                    np.testing.assert_allclose(curve.points(station), [at], atol=1e-9)


class PathData(unittest.TestCase):
    """Witness: svgelements' own points along the same data."""

    SAMPLES = (
        "M0 0 C10 20 30 20 40 0",
        "m10,10 l20 0 h5 v-5 q10 10 20 0 t20 0 c1 2 3 4 5 5 s5 5 9 0",
        "M0 0 10 0 10 10",
        "M0 0L40 0 40 30 0 30Z",
        "M0,0a25,25 -30 0,1 50,-25l50,-25",
        "M10 80 Q 52.5 10, 95 80 T 180 80",
        "M0 0 A 30 15 20 1 0 50 20",
    )

    def test_the_line_is_the_one_svgelements_draws(self) -> None:
        for data in self.SAMPLES:
            with self.subTest(data):
                curve = curve_from_path_data(data)
                path = svgelements.Path(data)
                self.assertAlmostEqual(curve.length / path.length(error=1e-9), 1.0, delta=1e-6)
                dense = curve.points(np.linspace(0, curve.length, 20001))
                for share in (0.0, 0.13, 0.5, 0.77, 1.0):
                    point = path.point(share)
                    apart = np.hypot(dense[:, 0] - point.x, dense[:, 1] - point.y).min()
                    self.assertLess(apart, curve.length / 20000)

    def test_circular_arcs_stay_exact(self) -> None:
        curve = curve_from_path_data("M-120 0 A120 120 0 0 0 120 0")
        self.assertIsInstance(curve, CircularArc)
        self.assertAlmostEqual(curve.length, math.pi * 120)
        ring = curve_from_path_data("M-120 0A120 120 0 0 0 120 0A120 120 0 0 0 -120 0Z")
        self.assertTrue(ring.closed)
        self.assertAlmostEqual(ring.length, 2 * math.pi * 120)

    def test_an_ellipse_has_its_perimeter(self) -> None:
        """4aE(k), NIST DLMF 19.30(i); the witness is scipy's elliptic integral."""
        from scipy.special import ellipe

        ring = curve_from_path_data("M-50 0A50 20 0 0 0 50 0A50 20 0 0 0 -50 0Z")
        self.assertAlmostEqual(ring.length, 4 * 50 * ellipe(1 - (20 / 50) ** 2), delta=1e-6)

    def test_closing_makes_it_closed(self) -> None:
        self.assertTrue(curve_from_path_data("M0 0H10V10Z").closed)
        self.assertFalse(curve_from_path_data("M0 0H10V10").closed)

    def test_wrong_data_is_refused_with_its_place(self) -> None:
        wrong = {
            "": "draws nothing",
            "M0 0": "draws nothing",
            "L0 0": "must begin with M",
            "M0 0 C1 2 3": "takes 6 numbers, and has 3",
            "M0 0 L5 x": "L at character 6: takes 2 numbers, and has 1",
            "M0 0 K5": "no command at character 6",
            "M0 0L9 9M1 1L2 2": "begins a second",
            "M0 0L9 9 0 9Z L4 4": "Z has closed it",
            "M0 0L1e9 0": "farther",
            "M0 0L1 nan": "takes 2 numbers",
            "M0 0A1 1 0 2 0 5 5": "takes 7 numbers",
            "M5 5L5 5": "no length",
            "M0 0 L5 5 <script>": "no command",
        }
        for data, reason in wrong.items():
            with self.subTest(data), self.assertRaisesRegex(CurveError, reason):
                curve_from_path_data(data)

    @given(st.text(alphabet="MmLlHhVvCcSsQqTtAaZz0123456789.-+e, ", max_size=60))
    def test_any_text_is_a_curve_or_refused(self, data: str) -> None:
        try:
            curve = curve_from_path_data(data)
        except CurveError:
            return
        self.assertTrue(math.isfinite(curve.length) and curve.length > 0)


if __name__ == "__main__":
    unittest.main()
