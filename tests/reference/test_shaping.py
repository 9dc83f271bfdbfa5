"""Shaping, features and axes, held against fontTools' reading of the fonts' own tables."""

from __future__ import annotations

import io
import unittest

import numpy as np
import regex
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

from tests.makings import LINE, line
from ulvent.core.faces import OutlineFace
from ulvent.shipped_faces import FONTS, shipped_face


def substitutions(file: str, tag: str) -> dict[str, str]:
    """What a feature replaces one for one, by GSUB (lookup type 1), Latin or default script."""
    table = TTFont(FONTS / file)
    gsub = table["GSUB"].table
    found: dict[str, str] = {}
    for record in gsub.FeatureList.FeatureRecord:
        if record.FeatureTag != tag:
            continue
        for index in record.Feature.LookupListIndex:
            for subtable in gsub.LookupList.Lookup[index].SubTable:
                found.update(getattr(getattr(subtable, "ExtSubTable", subtable), "mapping", {}))
    return found


class Features(unittest.TestCase):
    def test_features_replace_what_the_tables_say(self) -> None:
        for face_id, file, tag, text in (
            ("zilla-slab-semibold", "zilla-slab-semibold.ttf", "smcp", "orchard"),
            ("zilla-slab-semibold", "zilla-slab-semibold.ttf", "zero", "0"),
            ("eb-garamond", "eb-garamond.otf", "smcp", "orchard"),
        ):
            table = TTFont(FONTS / file)
            names, characters = table.getGlyphOrder(), table.getBestCmap()
            replaced = substitutions(file, tag)
            shaped = shipped_face(face_id).shape(text, ((tag, 1),))
            with self.subTest(f"{face_id} {tag}"):
                expected = [replaced[characters[ord(letter)]] for letter in text]
                found = [names[cluster.glyphs[0].glyph] for cluster in shaped.clusters]
                self.assertEqual(found, expected)

    def test_a_lettering_asks_for_them(self) -> None:
        plain = line(LINE, text="orchard", face="zilla-slab-semibold")
        small = line(LINE, text="orchard", face="zilla-slab-semibold", features={"smcp": 1})
        heights = [one.placed_outline(3).bounds()[3] for one in (plain, small)]
        self.assertGreater(heights[0], 1.1 * heights[1])

    def test_ligatures_are_one_cluster_or_none(self) -> None:
        joined = line(LINE, text="fig", face="lato-bold")
        loose = line(LINE, text="fig", face="lato-bold", features={"liga": 0})
        self.assertEqual((len(joined.clusters), len(loose.clusters)), (2, 3))


class Axes(unittest.TestCase):
    def test_advances_and_outlines_at_axis_values(self) -> None:
        """Against a static font that fontTools' instancer makes at the same weight."""
        data = (FONTS / "bitter-variable.woff2").read_bytes()
        for weight in (150, 400, 700, 900):
            static = instancer.instantiateVariableFont(TTFont(io.BytesIO(data)), {"wght": weight})
            static.flavor = None
            out = io.BytesIO()
            static.save(out)
            expected = OutlineFace(out.getvalue())
            found = shipped_face("bitter-variable").varied((("wght", weight),))
            for text in ("Hamburg", "&"):
                ours, theirs = found.shape(text).clusters, expected.shape(text).clusters
                np.testing.assert_allclose(
                    [c.advance for c in ours], [c.advance for c in theirs], atol=1
                )
                for one, other in zip(ours, theirs, strict=True):
                    np.testing.assert_allclose(
                        found.cluster_outline(one.glyphs).bounds(),
                        expected.cluster_outline(other.glyphs).bounds(),
                        atol=1.5,
                    )


class Clusters(unittest.TestCase):
    WORDS = ("café", "Z̈ug ñ", "बगीचे में", "بستانٌ", "שָׁלוֹם", "क्षत्रिय", "e̊́x")

    def test_no_cluster_tears_a_grapheme_apart(self) -> None:
        """UAX 29, by the `regex` package: a cluster holds whole graphemes."""
        for word, face in zip(self.WORDS, ("lato-bold", "lato-bold", "mukta-semibold", "amiri",
                                           "frank-ruhl-libre-medium", "mukta-semibold",
                                           "lato-bold"), strict=True):  # fmt: skip
            starts = [match.start() for match in regex.finditer(r"\X", word)]
            for cluster in shipped_face(face).shape(word).clusters:
                self.assertIn(cluster.place, starts, f"{word}: {cluster.text}")

    def test_right_to_left_words_stand_right_to_left(self) -> None:
        found = line(LINE, text="בוסתן", face="frank-ruhl-libre-medium", at=100)
        places = [cluster.place for cluster in found.clusters]
        self.assertEqual(places, [4, 3, 2, 1, 0])
        self.assertTrue((np.diff(found.middles) > 0).all())

    def test_mixed_directions_follow_uax_9(self) -> None:
        """Rule L2 on “ab בג 12”: Latin first, then the Hebrew reversed, figures last."""
        found = line(LINE, text="ab בג cd", face="frank-ruhl-libre-medium")
        self.assertEqual("".join(c.text for c in found.clusters), "abגבcd")


class SingleStroke(unittest.TestCase):
    def test_letters_spaced_as_the_standard_has_them(self) -> None:
        """ISO 3098-1, from memory: the white between letters is 0.2 h. Between two stems
        that is their distance, and it is what the gap measures."""
        height = 5.0
        plain = line(LINE, text="HH", face="hershey-sans", height=height)
        boxes = [plain.placed_outline(index).bounds() for index in range(2)]
        tracking = 0.2 * height - (boxes[1][0] - boxes[0][2])
        found = line(LINE, text="HH", face="hershey-sans", height=height, tracking=tracking)
        boxes = [found.placed_outline(index).bounds() for index in range(2)]
        self.assertAlmostEqual(boxes[1][0] - boxes[0][2], 1.0)
        self.assertAlmostEqual(found.gaps.found[0], 1.0, places=6)
