"""Fits of guides, tapers, repeats, parts and several letterings, against other ways to them."""

from __future__ import annotations

import math
import unittest
from typing import Any

import mpmath
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq
from shapely import STRtree
from shapely.geometry import LineString, MultiPolygon, Polygon
from shapely.ops import unary_union

from tests.makings import RING, SPIRAL, found_in, laid_out, line, lines, workpiece
from ulvent.core.layout import Layout, lay_out
from ulvent.core.recipe import Fit, Piece, parse_piece
from ulvent.core.setting import Setting
from ulvent.shipped_faces import shipped_face

EXACT = 1e-6
WORDS = "PRESSED BY HAND"
BANNER = ("M-120 30C-60 60 60 60 120 30", "M-120 -30C-60 -5 60 -5 120 -30")


def fit(kind: str, **fields: Any) -> dict[str, Any]:
    return {"fit": {"kind": kind, **fields}}


def advances(text: str, face: str = "lato-bold") -> float:
    """The length of words 1 mm high, without tracking, mm."""
    found = shipped_face(face)
    return sum(c.advance for c in found.shape(text).clusters) / found.metrics.cap_height


def piece_of(guides: list[dict[str, Any]], letterings: list[dict[str, Any]], **more: Any) -> Piece:
    usual = {"text": WORDS, "face": "lato-bold", "height": 12, "align": "centre"}
    return parse_piece(
        {
            "ulvent": 1,
            "guides": guides,
            "letterings": [{**usual, **one} for one in letterings],
            **more,
        }
    )


def laid(*args: Any, **more: Any) -> Layout:
    return lay_out(piece_of(*args, **more), shipped_face)


def areas(setting: Setting) -> list[MultiPolygon]:
    """The letters of a line as areas, finely flattened."""
    found = []
    for index in range(len(setting.clusters)):
        outline = setting.placed_outline(index).flattened(200)
        found.append(unary_union([Polygon(points).buffer(0) for points, _ in outline]))
    return found


class GuidesThatAreMadeToFit(unittest.TestCase):
    """Sizes of guides against closed forms, by mpmath with 30 digits."""

    def figure(self, guide: dict[str, Any], figure: str = "", **changes: Any) -> float:
        found = line(guide, text=WORDS, **changes, **fit("guide", figure=figure))
        assert found.fitted is not None
        self.assertEqual(found.fitted.note, "")
        (value,) = found.fitted.guide_figures.values()
        return value

    def test_a_ring_is_as_long_as_its_words(self) -> None:
        wanted = 12 * advances(WORDS) + 14 * 0.7 + 0.7
        for figure, size in (("diameter", wanted / math.pi), ("scaled", wanted / math.pi / 200)):
            self.assertAlmostEqual(self.figure(RING, figure, tracking=0.7), size, delta=EXACT)
        by_round = {"kind": "circle", "round": 500}
        self.assertAlmostEqual(self.figure(by_round, tracking=0.7), wanted, delta=EXACT)

    def test_the_rise_of_an_arch(self) -> None:
        """Chord c and rise h give r = c²/8h + h/2 and the length 2r·asin(c/2r), also over 180°."""
        wanted, chord = mpmath.mpf(12 * advances(WORDS)), mpmath.mpf(100)

        def length(rise: mpmath.mpf) -> mpmath.mpf:
            radius = chord**2 / (8 * rise) + rise / 2
            return 4 * radius * mpmath.atan(2 * rise / chord)

        with mpmath.workdps(30):
            rise = mpmath.findroot(lambda h: length(h) - wanted, 30)
        found = self.figure({"kind": "arch", "chord": 100, "rise": 10}, "rise")
        self.assertAlmostEqual(found, float(rise), delta=EXACT)
        below = self.figure({"kind": "arch", "chord": 100, "rise": -10}, "rise")
        self.assertAlmostEqual(below, -float(rise), delta=EXACT)

    def test_the_length_of_a_wave(self) -> None:
        """Two sine waves 20 mm high, by quadrature of √(1 + y′²)."""
        wanted = 12 * advances(WORDS)

        def miss(wave: mpmath.mpf) -> mpmath.mpf:
            k = 2 * mpmath.pi / wave
            speed = lambda x: mpmath.sqrt(1 + (10 * k * mpmath.cos(k * x)) ** 2)  # noqa: E731
            return 8 * mpmath.quad(speed, [0, wave / 4]) - wanted

        with mpmath.workdps(20):
            wave = mpmath.findroot(miss, 50)
        found = self.figure({"kind": "wave", "length": 70, "height": 20, "waves": 2}, "length")
        self.assertAlmostEqual(found, float(wave), delta=EXACT)

    def test_gain_and_turns_of_a_spiral(self) -> None:
        """r = 30 + gθ/2π: length as the integral of √(r² + (dr/dθ)²)."""
        words = WORDS * 3
        wanted = 12 * advances(words)

        def length(gain: mpmath.mpf, turns: mpmath.mpf) -> mpmath.mpf:
            b, last = gain / (2 * mpmath.pi), 2 * mpmath.pi * turns
            return mpmath.quad(lambda t: mpmath.sqrt((30 + b * t) ** 2 + b * b), [0, last])

        with mpmath.workdps(20):
            turns = mpmath.findroot(lambda n: length(mpmath.mpf(20), n) - wanted, 1.5)
            gain = mpmath.findroot(lambda g: length(g, mpmath.mpf(1.5)) - wanted, 20)
        for name, value, guide in (
            ("turns", turns, {"kind": "spiral", "inner": 60, "gain": 20, "turns": 2}),
            ("gain", gain, {"kind": "spiral", "inner": 60, "gain": 9, "turns": 1.5}),
        ):
            found = line(guide, text=words, **fit("guide", figure=name)).fitted
            assert found is not None
            self.assertAlmostEqual(found.guide_figures[name], float(value), delta=EXACT)

    def test_even_words_close_on_their_ring(self) -> None:
        """The gap over the seam is what it would be on the straight: solved by scipy's brentq."""
        found = line(RING, text=WORDS, spacing="even", **fit("guide"))
        assert found.fitted is not None

        def seam(diameter: float) -> float:
            ring = {"kind": "circle", "diameter": diameter}
            own = line(ring, text=WORDS, spacing="even", **fit("gap"))
            return own.lettering.tracking

        diameter = brentq(seam, 36, 60, xtol=1e-9)
        self.assertAlmostEqual(found.fitted.value, diameter, delta=1e-5)

    def test_the_height_that_ends_a_spiral(self) -> None:
        """Words on the spiral itself: its length, by the closed form, over theirs."""
        with mpmath.workdps(30):
            a, b = mpmath.mpf(30), mpmath.mpf(30) / (2 * mpmath.pi)

            def primitive(r: mpmath.mpf) -> mpmath.mpf:
                u = r / b
                return b * (u * mpmath.sqrt(1 + u * u) + mpmath.asinh(u)) / 2

            length = primitive(a + 6 * mpmath.pi * b) - primitive(a)
        found = line(SPIRAL, text=WORDS * 5, **fit("height"))
        wanted = float(length) / advances(WORDS * 5)
        self.assertAlmostEqual(found.lettering.height, wanted, delta=EXACT)

    def test_a_second_solver_comes_to_the_same(self) -> None:
        """scipy's brentq over plain settings, evenly spaced."""
        wave = {"kind": "wave", "length": 90, "height": 8, "waves": 3}
        words = f"{WORDS} IN THE BARN"
        plain: list[tuple[dict[str, Any], str, dict[str, Any], tuple[float, float]]] = [
            (wave, "height", fit("height", margin=2), (5, 16)),
            (wave, "tracking", fit("gap", margin=2), (-2, 20)),
            ({**SPIRAL, "turns": 1}, "end_height", fit("taper", margin=2), (6, 40)),
        ]
        for guide, field, own, bracket in plain:
            with self.subTest(f"{guide['kind']} {field}"):

                def left(value: float, guide: dict = guide, field: str = field) -> float:
                    one = line(guide, text=words, spacing="even", align="start", at=2,
                               **{field: value})  # fmt: skip
                    return one.baseline.length - one.length - 4

                wanted = brentq(left, *bracket, xtol=1e-10)
                found = line(guide, text=words, spacing="even", align="start", **own)
                self.assertAlmostEqual(getattr(found.lettering, field), wanted, delta=EXACT)

    def test_where_there_is_none_the_nearest_is_said(self) -> None:
        arch = laid_out({"kind": "arch", "chord": 300, "rise": 40}, **fit("guide", figure="rise"))
        (finding,) = found_in(arch)
        self.assertIn("at no rise do the words fill it", finding.message)
        self.assertRegex(finding.message, r"\d+ mm left at the nearest")
        for figure, reason in (("rise", "none that this guide"), ("gain", "diameter, scaled")):
            with self.assertRaisesRegex(Exception, f"fit.figure.*{reason}"):
                laid_out(RING, **fit("guide", figure=figure))

    def test_limits_are_said_with_the_figure_by_which(self) -> None:
        (finding,) = found_in(laid_out(RING, text=WORDS, **fit("guide", least=60)))
        self.assertRegex(
            finding.message, r"diameter comes to 47\.5\d* mm, 12\.5 mm less than 60 mm"
        )

    def test_two_letterings_that_size_one_ring_are_told_apart(self) -> None:
        ring = [{"id": "g", **RING}]
        sizing = {"guide": "g", **fit("guide")}
        layout = laid(ring, [{"id": "a", **sizing}, {"id": "b", "text": "QUILL", **sizing}])
        wanted = [12 * advances(text) / math.pi for text in (WORDS, "QUILL")]
        self.assertAlmostEqual(layout.guides[0].recipe.diameter, wanted[0], delta=EXACT)
        (finding,) = (one for one in found_in(layout) if one.kind == "fit")
        self.assertEqual(finding.lettering, "b")
        self.assertIn(f"{wanted[0] - wanted[1]:.4g} mm apart", finding.message)
        alike = laid(ring, [{"id": "a", **sizing}, {"id": "b", "reading": "against", **sizing}])
        self.assertFalse([one for one in found_in(alike) if one.kind == "fit"])

    def test_what_leans_on_a_sized_guide_follows(self) -> None:
        guides = [
            {"id": "outer", "kind": "parallel", "guide": "g", "distance": -20},
            {"id": "g", **RING},
        ]
        layout = laid(guides, [{"id": "a", "guide": "g", **fit("guide")}])
        lengths = {guide.recipe.id: guide.curve.length for guide in layout.guides}
        self.assertAlmostEqual(abs(lengths["outer"] - lengths["g"]), 40 * math.pi, places=6)


class TapersAndRepeats(unittest.TestCase):
    def test_words_taper_to_the_end_of_a_spiral(self) -> None:
        for inward in (False, True):
            spiral = {**SPIRAL, "inward": inward}
            for spacing in ("font", "even"):
                with self.subTest(f"{inward} {spacing}"):
                    found = line(spiral, text=WORDS * 4, spacing=spacing, **fit("taper", margin=3))
                    self.assertAlmostEqual(found.end, found.baseline.length - 3, delta=EXACT)
                    assert found.fitted is not None
                    ratio = found.fitted.value / 12
                    self.assertAlmostEqual(
                        found.scales[-1] / found.scales[0], ratio, delta=0.05 * ratio
                    )

    def test_the_number_of_repeats_nearest_to_the_face_s_own_joints(self) -> None:
        """n words and n word spaces: the share by which a joint differs is least."""
        word, space = 12 * advances("ORCHARD"), 12 * advances(" ")
        for diameter in (90, 100, 110, 120, 130, 200):
            ring = {"kind": "circle", "diameter": diameter}
            found = line(ring, text="ORCHARD", repeat={}, **fit("repeats"))
            assert found.fitted is not None
            off = [abs(math.pi * diameter / n - word - space) for n in range(1, 30)]
            self.assertEqual(found.fitted.value, 1 + int(np.argmin(off)))
            self.assertEqual(len(np.unique(found.runs)), found.fitted.value)

    def test_the_height_that_makes_the_joints_exact(self) -> None:
        found = line(RING, text="ORCHARD", repeat={"times": 6}, **fit("height"))
        self.assertAlmostEqual(
            found.lettering.height, 200 * math.pi / 6 / advances("ORCHARD "), delta=EXACT
        )

    def test_a_number_left_to_the_room_is_the_nearest_before_anything_is_sized(
        self,
    ) -> None:
        """Without it, words of any height would go round as often as they fit."""
        free = line(RING, text="ORCHARD", repeat={}, **fit("repeats"))
        for kind in ("height", "guide"):
            found = line(RING, text="ORCHARD", repeat={}, **fit(kind))
            assert free.fitted is not None
            assert found.fitted is not None
            self.assertEqual(found.fitted.figures["times"], free.fitted.value)
            self.assertAlmostEqual(found.spare, 0, delta=EXACT)


class PartsAndGivingWay(unittest.TestCase):
    def test_a_part_of_the_guide_is_filled(self) -> None:
        for reading in ("along", "against"):
            for kind in ("gap", "height"):
                found = line(RING, reading=reading, **fit(kind, part=[600, 190], margin=4))
                feet = found.baseline.foot(np.array([found.start, found.end]))
                length = found.guide.length
                ends = sorted(feet if reading == "along" else length - feet)
                self.assertAlmostEqual(ends[0] % length, 604, delta=EXACT)
                self.assertAlmostEqual(ends[1] % length, 186, delta=EXACT)

    def test_the_height_then_the_width_give_way(self) -> None:
        """100 mm: with 1 mm a gap the height solves 6 + h·advances = 100; at most 13 mm leaves
        the width."""
        natural = advances("ORCHARD")
        free = [{"figure": "height"}, {"figure": "width"}]
        found = line(
            {"kind": "line", "length": 100}, text="ORCHARD", **fit("gap", most=1, gives=free)
        )
        self.assertAlmostEqual(found.lettering.height, 94 / natural, delta=EXACT)
        held = [{"figure": "height", "most": 13}, {"figure": "width"}]
        found = line(
            {"kind": "line", "length": 100}, text="ORCHARD", **fit("gap", most=1, gives=held)
        )
        self.assertAlmostEqual(found.lettering.height, 13)
        self.assertAlmostEqual(found.lettering.width, 94 / natural / 13, delta=EXACT)
        self.assertAlmostEqual(found.length, 100, delta=EXACT)

    def test_what_gave_way_in_vain_is_said(self) -> None:
        gives = [{"figure": "height", "least": 11}, {"figure": "width", "least": 0.9}]
        layout = laid_out({"kind": "line", "length": 40}, **fit("gap", least=0, gives=gives))
        found = {one.kind: one.message for one in found_in(layout)}
        over = 11 * 0.9 * advances("QUILLMERE") - 40
        self.assertIn(
            f"with the width at 0.9 the words are still {over:.3g} mm too long", found["fit"]
        )


class WithinBounds(unittest.TestCase):
    """Distances by shapely, between outlines flattened to a thousandth of a mm."""

    def test_the_largest_name_between_two_edges(self) -> None:
        edges = [{"id": name, "kind": "path", "d": d} for name, d in zip("uv", BANNER, strict=True)]
        middle = {"id": "m", "kind": "between", "first": "u", "second": "v"}
        for shape in ("rigid", "bent"):
            with self.subTest(shape):
                name = {"id": "a", "guide": "m", "text": "QUILL", "touch": "middle", "shape": shape,
                        **fit("height", within=["edges"], clear=4)}  # fmt: skip
                layout = laid([*edges, middle], [name])
                letters = unary_union(areas(layout.settings[0]))
                apart = [
                    LineString(
                        guide.curve.points(np.linspace(0, guide.curve.length, 4001))
                    ).distance(letters)
                    for guide in layout.guides[:2]
                ]
                self.assertAlmostEqual(min(apart), 4, delta=1e-4)

    def test_inside_the_blank(self) -> None:
        blank = {
            "kind": "tag",
            "width": 130,
            "height": 40,
            "radius": 8,
            "hole": 8,
            "hole_inset": 12,
        }
        guide = {"id": "g", "kind": "line", "length": 120, "centre": [4, -6]}
        name = {"id": "a", "guide": "g", "text": "Quay", **fit("height", within=["blank"], clear=2)}
        layout = laid([guide], [name], blank=blank)
        outer, hole = (
            Polygon(curve.points(np.linspace(0, curve.length, 8001))) for curve in layout.blank
        )
        letters = unary_union(areas(layout.settings[0]))
        room = min(outer.exterior.distance(letters), hole.distance(letters))
        self.assertTrue(outer.contains(letters))
        self.assertAlmostEqual(room, 2, delta=1e-4)

    def test_what_is_not_there_bounds_nothing_and_is_said(self) -> None:
        for bound, words in (("blank", "no blank"), ("edges", "between two edges")):
            layout = laid_out(RING, **fit("height", within=[bound], clear=2))
            self.assertAlmostEqual(layout.settings[0].room, 0, delta=EXACT)
            self.assertIn(words, {one.kind: one.message for one in found_in(layout)}["fit"])

    def apart_on_turns(self, settings: tuple[Setting, ...]) -> float:
        """Letters more than half a turn apart along the line, or on different lines."""
        letters = [(area, one.frames.turnings[index], one.line)
                   for one in settings for index, area in enumerate(areas(one))]  # fmt: skip
        tree = STRtree([area for area, _, _ in letters])
        return min(
            one.distance(letters[near][0])
            for at, (one, turning, row) in enumerate(letters)
            for near in tree.query(one, "dwithin", 6.0)
            if near > at and (letters[near][2] != row or abs(turning - letters[near][1]) > math.pi)
        )

    def test_turns_of_a_spiral_stay_clear(self) -> None:
        spiral = {**SPIRAL, "gain": 16, "turns": 2}
        text = "Gather the windfalls by the gate and pay"
        for wanted in (0.5, 2.0):
            own = fit("height", within=["turns"], clear=wanted)
            found = lines(spiral, text=text, face="zilla-slab-semibold", **own)
            self.assertAlmostEqual(self.apart_on_turns(found), wanted, delta=1e-4)

    def test_the_gain_that_parts_the_turns(self) -> None:
        own = fit("guide", figure="gain", until="clear", clear=1.5)
        spiral = {**SPIRAL, "gain": 30, "turns": 2}
        layout = laid_out(spiral, text="Gather the windfalls by the gate", height=14, **own)
        self.assertAlmostEqual(self.apart_on_turns(layout.settings), 1.5, delta=1e-4)
        ring = laid_out(RING, **fit("guide", until="clear", clear=1.5))
        self.assertIn("no turns", {one.kind: one.message for one in found_in(ring)}["fit"])

    def test_laps_stay_clear(self) -> None:
        """Larger words break elsewhere: the limit may be a jump, with no room beyond it."""
        ring = {"kind": "circle", "diameter": 150}
        laps = {"laps": {"pitch": 16, "way": "outward"}, "text": "Outward lap by lap, " * 6}
        found = lines(ring, **laps, **fit("height", clear=0.5))
        self.assertGreater(len(found), 1)
        self.assertGreaterEqual(self.apart_on_turns(found), 0.5 - 1e-4)
        beyond = lines(ring, **laps, height=found[0].lettering.height * 1.0001)
        self.assertLess(self.apart_on_turns(beyond), 0.5)

    def test_letters_that_run_into_other_turns_are_found(self) -> None:
        text = "Gather the windfalls by the gate and pay"
        kinds = [
            one.kind for one in found_in(laid_out({**SPIRAL, "gain": 16}, text=text, height=15))
        ]
        self.assertIn("near-turns", kinds)
        kinds = [
            one.kind for one in found_in(laid_out({**SPIRAL, "gain": 30}, text=text, height=12))
        ]
        self.assertNotIn("near-turns", kinds)


class SeveralAtOnce(unittest.TestCase):
    def test_names_of_one_set_have_the_height_that_fits_them_all(self) -> None:
        names = ("RUSSET", "WINTER PIPPIN", "PLUM")
        guides = [{"id": f"g{i}", "kind": "line", "length": 90} for i in range(3)]
        own = fit("height", alike="labels", margin=2)
        layout = laid(
            guides,
            [
                {"id": f"l{i}", "guide": f"g{i}", "text": name, "height": 5 + i, **own}
                for i, name in enumerate(names)
            ],
        )
        height = min(86 / advances(name) for name in names)
        for setting in layout.settings:
            self.assertAlmostEqual(setting.lettering.height, height, delta=EXACT)

    def test_two_letterings_of_a_ring_grow_until_they_meet(self) -> None:
        """Top and bottom on the same band: what is left of the ring is two margins."""
        ring = [{"id": "g", **RING}]
        for spacing in ("font", "even"):
            top = {"id": "a", "guide": "g", "at": 0.25, "at_in": "share", "spacing": spacing,
                   **fit("height", margin=9)}  # fmt: skip
            bottom = {**top, "id": "b", "text": "QUILLMERE FAIR", "at": 0.75}
            one, two = laid(ring, [top, bottom]).settings
            ends = one.end, one.start + one.guide.length
            self.assertAlmostEqual(min(two.start - ends[0], ends[1] - two.end), 9, delta=EXACT)
            self.assertAlmostEqual(one.lettering.height, two.lettering.height, delta=EXACT)

    def test_one_grows_until_it_meets_what_stands_there(self) -> None:
        ring = [{"id": "g", **RING}]
        fixed = {"id": "a", "guide": "g", "at": 0.25, "at_in": "share"}
        grown = {**fixed, "id": "b", "at": 0.6, **fit("height", margin=5)}
        one, two = laid(ring, [fixed, grown]).settings
        self.assertEqual(one.lettering.height, 12)
        self.assertAlmostEqual(two.start - one.end, 5, delta=EXACT)

    def test_who_decides_is_said_where_a_limit_is_missed(self) -> None:
        guides = [{"id": f"g{i}", "kind": "line", "length": 90} for i in range(2)]
        own = fit("height", alike="labels", least=20)
        texts = ("PLUM", "WINTER PIPPIN")
        found = found_in(laid(guides, [{"id": f"l{i}", "guide": f"g{i}", "text": text, **own}
                                    for i, text in enumerate(texts)]))  # fmt: skip
        self.assertEqual(len(found), 2)
        self.assertIn("“WINTER PIPPIN” decides", found[0].message)


class Laws(unittest.TestCase):
    @settings(max_examples=20)
    @given(st.floats(0.2, 5), st.floats(-180, 180), st.sampled_from(["font", "even"]))
    def test_moving_turning_and_scaling_commute_with_solving(
        self, factor: float, turned: float, spacing: str
    ) -> None:
        own = {"text": WORDS, "spacing": spacing}
        guide = {"kind": "arch", "chord": 180, "rise": 40}
        one = line(guide, **own, **fit("height", margin=4))
        placed = {**guide, "scaled": factor, "turned": turned, "centre": [30, -7]}
        two = line(placed, **own, **fit("height", margin=4 * factor))
        self.assertAlmostEqual(
            two.lettering.height, factor * one.lettering.height, delta=EXACT * factor
        )

    @settings(max_examples=20)
    @given(st.sampled_from(["height", "gap"]), st.sampled_from(["font", "even"]))
    def test_reversing_commutes_with_solving(self, kind: str, spacing: str) -> None:
        guide = {"kind": "wave", "length": 160, "height": 20, "waves": 2}
        one = line(guide, text=WORDS, spacing=spacing, **fit(kind))
        two = line(
            {**guide, "reverse": True}, text=WORDS, spacing=spacing, reading="against", **fit(kind)
        )
        for name in ("height", "tracking"):
            self.assertAlmostEqual(
                getattr(one.lettering, name), getattr(two.lettering, name), delta=EXACT
            )

    @settings(max_examples=25)
    @given(st.floats(100, 600), st.floats(1.01, 3), st.sampled_from(["font", "even"]))
    def test_a_longer_guide_gives_higher_letters_and_wider_gaps(
        self, length: float, factor: float, spacing: str
    ) -> None:
        for kind, name in (("height", "height"), ("gap", "tracking")):
            short, long = (
                line({"kind": "line", "length": size}, spacing=spacing, **fit(kind)).lettering
                for size in (length, length * factor)
            )
            self.assertLess(getattr(short, name), getattr(long, name))

    def test_solving_twice_changes_nothing(self) -> None:
        for guide, own in (
            (RING, fit("guide")),
            (RING, fit("gap")),
            (SPIRAL, fit("height", within=["turns"], clear=1)),
            (SPIRAL, fit("taper")),
            (RING, {"repeat": {}, **fit("repeats")}),
        ):
            with self.subTest(own):
                piece = laid_out(guide, text=WORDS * 3, **own).piece
                once = workpiece(piece).solved
                twice = workpiece(once).solved
                one, two = (
                    [layout.settings[0].matrices, layout.guides[0].curve.length]
                    for layout in (lay_out(once, shipped_face), lay_out(twice, shipped_face))
                )
                np.testing.assert_allclose(one[0], two[0], atol=EXACT)
                self.assertAlmostEqual(one[1], two[1], delta=EXACT)

    def test_plain_figures_stand_as_the_fit_did(self) -> None:
        for guide, own in ((RING, fit("guide")), (SPIRAL, fit("taper")), (RING, fit("gap"))):
            layout = laid_out(guide, text=WORDS, **own)
            piece = workpiece(layout.piece).solved
            plain = piece.letterings[0].model_copy(update={"fit": None})
            kept = lay_out(piece.model_copy(update={"letterings": (plain,)}), shipped_face)
            (one,), (two,) = layout.settings, kept.settings
            np.testing.assert_allclose(one.widths, two.widths, atol=EXACT)
            np.testing.assert_allclose(np.diff(one.middles), np.diff(two.middles), atol=EXACT)

    def test_fields_of_another_kind_are_refused(self) -> None:
        for wrong in (
            {"kind": "gap", "alike": "x"},
            {"kind": "height", "figure": "rise"},
            {"kind": "taper", "within": ["blank"]},
            {"kind": "gap", "part": [3, 3]},
        ):
            with self.assertRaises(ValueError):
                Fit.model_validate(wrong)
