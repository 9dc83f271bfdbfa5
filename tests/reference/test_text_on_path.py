"""Letters on a path, held against the browser's own `textPath` (SVG 2, chapter Text).

The witness is headless Chromium with the same font files. It measures curves
coarsely, so letters are 1,000 px high and curves are given to it as polylines of
3,600 points, sampled here from the formulas of circle and Bezier and not by our own
curves.
"""

from __future__ import annotations

import base64
import math
import unittest
from typing import Any

import numpy as np

from tests.browser.chromium import ChromiumTest
from ulvent.core.curves import BezierPath, CircularArc, CubicSegment, Curve
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Standing, set_lettering
from ulvent.shipped_faces import FONTS, catalogue, shipped_face

FACES = ("lato-bold", "eb-garamond", "zilla-slab-semibold", "nunito-extrabold", "kaushan-script")
RIGHT_TO_LEFT = ("frank-ruhl-libre-medium", "amiri")
WORDS = "AVOWAL To Yard"
SIZE = 1000.0
SHARE_OF_LENGTH = 5e-5
DEGREES = 0.005
"""Beyond half a facet of the polyline that the browser follows."""
SAMPLES = 3600

JOINTS = [(0, 0), (9000, 3000), (15000, -2000), (24000, 1000)]
HANDLES = [(3000, 4000), (2500, -1500), (2000, -1500), (3000, 3000)]

MEASURE = """
([family, size, words, path, offset, style = '', anchor = 'start']) => {
  const ns = 'http://www.w3.org/2000/svg';
  const svg = document.createElementNS(ns, 'svg');
  svg.innerHTML = `<defs><path id="line" d="${path}"/></defs>
    <text style="font-family:${family};font-size:${size}px;font-kerning:normal;white-space:pre;
      ${style}" text-anchor="${anchor}" text-rendering="geometricPrecision"><textPath href="#line"
      startOffset="${offset}">${words}</textPath></text>`;
  document.body.replaceChildren(svg);
  const text = svg.querySelector('text');
  return [...words].map((_, index) => {
    const start = text.getStartPositionOfChar(index);
    const end = text.getEndPositionOfChar(index);
    const angle = text.getRotationOfChar(index);
    return [(start.x + end.x) / 2, (start.y + end.y) / 2, angle];
  });
}
"""


def circle_points(radius: float, begin: float, sweep: float) -> np.ndarray:
    angles = np.radians(begin + sweep * np.linspace(0, 1, SAMPLES + 1))
    return radius * np.stack([np.cos(angles), np.sin(angles)], axis=1)


def bezier_chain() -> tuple[BezierPath, np.ndarray]:
    """Three smooth cubics, and the polyline of their formula."""
    segments, points = [], []
    t = np.linspace(0, 1, SAMPLES // 3 + 1)[:, None]
    for (a, b), (h, k) in zip(
        zip(JOINTS, JOINTS[1:], strict=False), zip(HANDLES, HANDLES[1:], strict=False), strict=True
    ):
        start, end = np.array(a, float), np.array(b, float)
        first, second = start + h, end - np.array(k, float)
        segments.append(CubicSegment(*(tuple(p) for p in (start, first, second, end))))
        u = 1 - t
        points.append(u**3 * start + 3 * u * u * t * first + 3 * u * t * t * second + t**3 * end)
    return BezierPath(segments), np.concatenate([points[0], *(part[1:] for part in points[1:])])


def guides() -> dict[str, tuple[Curve, np.ndarray]]:
    chain, chain_points = bezier_chain()
    return {
        "circle": (CircularArc.circle((0, 0), 2500, 90, True), circle_points(2500, 90, -360)),
        "open arc": (CircularArc((0, 0), 4000, 170, -150), circle_points(4000, 170, -150)),
        "chain of Beziers": (chain, chain_points),
    }


class TextOnPath(ChromiumTest):
    def test_every_letter_stands_where_the_browser_puts_it(self) -> None:
        page = self.page()
        self._load_faces(page)
        worst = 0.0
        for face_id in FACES:
            for name, (guide, points) in guides().items():
                for reading in ("along", "against"):
                    with self.subTest(f"{face_id} on {name}, {reading}"):
                        way = points if reading == "along" else points[::-1]
                        offset = 0.11 * guide.length
                        seen = np.array(
                            page.evaluate(MEASURE, [face_id, SIZE, WORDS, svg(way), offset])
                        )
                        ours = self._ours(face_id, guide, reading, offset)
                        apart = np.hypot(*(seen[:, :2] - ours[:, :2]).T).max() / guide.length
                        worst = max(worst, float(apart))
                        self.assertLessEqual(apart, SHARE_OF_LENGTH)
                        turned = (seen[:, 2] - ours[:, 2] + 180) % 360 - 180
                        allowed = DEGREES + half_facets(way, seen[:, :2])
                        self.assertTrue((np.abs(turned) <= allowed).all(), turned)
        self.assertGreater(worst, 0.0)

    def test_anchors_and_letter_spacing(self) -> None:
        """`text-anchor` holds words by start, middle or end; `letter-spacing` is our tracking."""
        page = self.page()
        self._load_faces(page)
        guide, points = guides()["circle"]
        offset = 0.5 * guide.length
        for align, anchor in (("start", "start"), ("centre", "middle"), ("end", "end")):
            for tracking in (0.0, 60.0):
                with self.subTest(f"{anchor}, {tracking}"):
                    # The browser spaces after the last letter too, and holds that as well.
                    extra = tracking * {"start": 0.0, "centre": 0.5, "end": 1.0}[align]
                    style = f"letter-spacing:{tracking}px;font-variant-ligatures:none"
                    seen = page.evaluate(
                        MEASURE, ["lato-bold", SIZE, "HAMMER", svg(points), offset, style, anchor]
                    )
                    wanted = self._lettering("lato-bold", "HAMMER", "along", offset - extra)
                    held = wanted.model_copy(update={"align": align, "tracking": tracking})
                    (ours,) = set_lettering(held, Standing(guide), shipped_face("lato-bold"))
                    # Its letter is as wide as its spacing: their middles differ by half of it.
                    middles = ours.baseline.frames(ours.middles + tracking / 2.0).points
                    apart = np.hypot(*(np.array(seen)[:, :2] * (1, -1) - middles).T)
                    self.assertLessEqual(apart.max() / guide.length, SHARE_OF_LENGTH)

    def test_right_to_left_words_with_marks(self) -> None:
        """Hebrew with points and Arabic, each letter by its place in the words."""
        page = self.page()
        self._load_faces(page)
        guide, points = guides()["open arc"]
        for face_id, words in (("frank-ruhl-libre-medium", "שָׁלוֹם"), ("amiri", "البستان")):
            with self.subTest(face_id):
                style = "font-variant-ligatures:normal"
                args = [face_id, SIZE, words, svg(points), 0.5 * guide.length, style, "middle"]
                seen = np.array(page.evaluate(MEASURE, args))
                wanted = self._lettering(face_id, words, "along", 0.5 * guide.length)
                held = wanted.model_copy(update={"align": "centre"})
                (ours,) = set_lettering(held, Standing(guide), shipped_face(face_id))
                for index, cluster in enumerate(ours.clusters):
                    if len(cluster.text) > 1 and face_id == "amiri":
                        continue  # the browser shares a ligature out among its characters
                    point = seen[cluster.place, :2] * (1, -1)
                    apart = np.hypot(*(point - ours.frames.points[index]))
                    self.assertLessEqual(apart / guide.length, SHARE_OF_LENGTH, cluster.text)

    def test_letters_whose_middle_is_off_an_open_path_are_not_drawn(self) -> None:
        """Chromium answers (0, 0, 0) for those; we mark them as not drawn."""
        page = self.page()
        self._load_faces(page)
        guide, points = guides()["open arc"]
        offset = guide.length - 3000
        seen = page.evaluate(MEASURE, ["lato-bold", SIZE, "HHHHHH", svg(points), offset])
        drawn = [not (x == y == 0) for x, y, _ in seen]
        self.assertIn(False, drawn)
        wanted = self._lettering("lato-bold", "HHHHHH", "along", offset)
        (ours,) = set_lettering(wanted, Standing(guide), shipped_face("lato-bold"))
        self.assertEqual(ours.drawn.tolist(), drawn)

    def _ours(self, face_id: str, guide: Curve, reading: str, offset: float) -> np.ndarray:
        """Middles, y down, and angles, clockwise; for spaces as well, by their advances."""
        at = offset if reading == "along" else guide.length - offset
        (setting,) = set_lettering(
            self._lettering(face_id, WORDS, reading, at), Standing(guide), shipped_face(face_id)
        )
        face, scale = setting.face, setting.scale
        advances = np.array([c.advance for c in face.shape(WORDS).clusters]) * scale
        self.assertEqual(len(advances), len(WORDS))
        middles = setting.start + np.cumsum(advances) - advances / 2
        frames = setting.baseline.frames(middles)
        inked = [index for index, letter in enumerate(WORDS) if letter != " "]
        np.testing.assert_allclose(frames.points[inked], setting.frames.points)
        angles = np.degrees(np.arctan2(frames.tangents[:, 1], frames.tangents[:, 0]))
        return np.column_stack([frames.points[:, 0], -frames.points[:, 1], -angles])

    def _lettering(self, face_id: str, text: str, reading: str, at: float) -> Lettering:
        metrics = shipped_face(face_id).metrics
        height = SIZE * metrics.cap_height / metrics.units_per_em
        fields = {"id": "x", "guide": "g", "text": text, "face": face_id, "height": height}
        return Lettering.model_validate({**fields, "reading": reading, "at": at})

    def _load_faces(self, page: Any) -> None:
        rules = []
        for face_id in FACES + RIGHT_TO_LEFT:
            data = (FONTS / catalogue()[face_id].file).read_bytes()
            encoded = base64.b64encode(data).decode()
            rules.append(
                f"@font-face {{font-family:{face_id};src:url(data:font/ttf;base64,{encoded})}}"
            )
        page.set_content(f"<style>{' '.join(rules)}</style><body></body>")
        for face_id in FACES + RIGHT_TO_LEFT:
            loaded = page.evaluate(
                "f => document.fonts.load(`20px ${f}`).then(l => l.length)", face_id
            )
            self.assertEqual(loaded, 1)


def half_facets(points: np.ndarray, at: np.ndarray) -> np.ndarray:
    """Half the turn, degrees, from the facet of a polyline nearest each point to its neighbours."""
    directions = np.degrees(np.unwrap(np.arctan2(*np.diff(points, axis=0).T[::-1])))
    turns = np.abs(np.diff(directions))
    down = points * (1, -1)
    nearest = [int(np.hypot(*(down - place).T).argmin()) for place in at]
    around = [turns[max(index - 2, 0) : index + 2].max() for index in nearest]
    return np.array(around) / 2


def svg(points: np.ndarray) -> str:
    """Path data of a polyline, y down."""
    return "M" + "L".join(f"{x:.6f} {-y:.6f}" for x, y in points.tolist())


class TheWitness(unittest.TestCase):
    def test_polylines_are_fine_enough_to_witness(self) -> None:
        """A chord falls short of its arc by θ²/24: far less than what is allowed."""
        theta = 2 * math.pi / SAMPLES
        self.assertLess(theta**2 / 24, SHARE_OF_LENGTH / 100)


if __name__ == "__main__":
    unittest.main()
