"""Faces: shaping, clusters, missing letters, outlines without overlaps."""

from __future__ import annotations

import io
import unittest

import numpy as np
import uharfbuzz as harfbuzz
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.areaPen import AreaPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Face, OutlineFace
from ulvent.core.faces.bidi import visual_runs
from ulvent.core.outlines import Outline
from ulvent.shipped_faces import FONTS, catalogue, shipped_face


def texts(face: Face, words: str) -> list[str]:
    return [cluster.text for cluster in face.shape(words).clusters]


def signed_area(outline: Outline) -> float:
    """By fontTools' area pen, an independent sum over the exact curves."""
    pen = AreaPen()
    outline.draw(pen)
    return float(pen.value)


class ShippedFaces(unittest.TestCase):
    def test_there_are_at_least_ten_and_each_opens(self) -> None:
        self.assertGreaterEqual(len(catalogue()), 10)
        for face_id in catalogue():
            with self.subTest(face_id):
                face = shipped_face(face_id)
                self.assertGreater(face.metrics.cap_height, face.metrics.x_height * 0.99)
                self.assertLess(face.metrics.descender, 0)

    def test_features_that_are_usual_are_those_that_harfbuzz_has_on(self) -> None:
        """HarfBuzz shapes with nothing asked; its own defaults are the reference."""
        words = "AVATAR To fi ffi first office Qu st ct 1/2 0123 Th (H) affluent"
        telling = 0

        def shaped(font: harfbuzz.Font, **features: int) -> list[tuple[int, int]]:
            buffer = harfbuzz.Buffer()
            buffer.add_str(words)
            buffer.guess_segment_properties()
            harfbuzz.shape(font, buffer, features)
            infos, positions = buffer.glyph_infos, buffer.glyph_positions
            return [(i.codepoint, p.x_advance) for i, p in zip(infos, positions, strict=True)]

        for entry in catalogue().values():
            choices = shipped_face(entry.id).features
            if not choices:
                continue
            font = harfbuzz.Font(harfbuzz.Face((FONTS / entry.file).read_bytes()))
            for choice in choices:
                with self.subTest(entry.id, tag=choice.tag):
                    as_usual = shaped(font, **{choice.tag: int(choice.usual)})
                    self.assertEqual(shaped(font), as_usual)
                    telling += as_usual != shaped(font, **{choice.tag: int(not choice.usual)})
        self.assertGreater(telling, 50)

    def test_each_has_its_licence_shipped(self) -> None:
        for entry in catalogue().values():
            with self.subTest(entry.id):
                self.assertRegex(entry.licence_text, "(?i)open font license|hershey")

    def test_each_is_complete(self) -> None:
        """Accents of the western languages; a stroke face composes what has a mark."""
        for face_id in catalogue():
            with self.subTest(face_id):
                face = shipped_face(face_id)
                further = "" if face.single_stroke else "øŒß"
                self.assertEqual(face.shape("éàüñçåÉÇ&?!0123456789" + further).missing, ())

    def test_one_is_single_stroke_and_its_strokes_are_open(self) -> None:
        strokes = [face_id for face_id in catalogue() if shipped_face(face_id).single_stroke]
        self.assertEqual(strokes, ["hershey-sans"])
        face = shipped_face("hershey-sans")
        outline = face.cluster_outline(face.shape("A").clusters[0].glyphs)
        self.assertNotIn("Z", outline.operations)

    def test_metrics_come_from_the_files_own_tables(self) -> None:
        """OpenType: OS/2 sCapHeight and sxHeight; read independently with fontTools."""
        for entry in catalogue().values():
            if entry.file.endswith(".jhf"):
                continue
            with self.subTest(entry.id):
                os2 = TTFont(FONTS / entry.file)["OS/2"]
                metrics = shipped_face(entry.id).metrics
                self.assertEqual(metrics.cap_height, os2.sCapHeight)
                self.assertEqual(metrics.x_height, os2.sxHeight)
                self.assertEqual(metrics.ascender, os2.sTypoAscender)
                self.assertEqual(metrics.sources["cap_height"], "OS/2 sCapHeight")


class Shaping(unittest.TestCase):
    def test_kerning_draws_pairs_together(self) -> None:
        face = shipped_face("lato-bold")
        kerned = sum(c.advance for c in face.shape("AV").clusters)
        alone = sum(face.shape(letter).clusters[0].advance for letter in "AV")
        self.assertLess(kerned, alone)

    def test_advances_are_harfbuzz_own(self) -> None:
        font = harfbuzz.Font(harfbuzz.Face((FONTS / "eb-garamond.otf").read_bytes()))
        buffer = harfbuzz.Buffer()
        buffer.add_str("Quillmere Orchard")
        buffer.guess_segment_properties()
        harfbuzz.shape(font, buffer)
        expected = sum(position.x_advance for position in buffer.glyph_positions)
        shaped = shipped_face("eb-garamond").shape("Quillmere Orchard")
        self.assertEqual(sum(cluster.advance for cluster in shaped.clusters), expected)

    def test_a_ligature_is_one_cluster(self) -> None:
        self.assertEqual(texts(shipped_face("lato-bold"), "fig"), ["fi", "g"])

    def test_a_base_keeps_its_marks(self) -> None:
        face = shipped_face("lato-bold")
        for words in ("e\u0301a", "a\u0323\u0302b"):
            with self.subTest(words):
                self.assertEqual("".join(texts(face, words)), words)
                self.assertEqual(len(texts(face, words)), 2)

    def test_mixed_directions_stand_as_they_are_read(self) -> None:
        """UAX 9: an opposite run keeps its own order; digits inside it keep theirs."""
        order = [("abc אבג def", "abc גבא def"), ("אבג 12 דה", "הד 12 גבא")]
        for text, seen in order:
            with self.subTest(text):
                visual = "".join(
                    text[r.start : r.end][:: -1 if r.right_to_left else 1]
                    for r in visual_runs(text)
                )
                self.assertEqual(visual, seen)

    def test_joiners_do_not_break_a_run(self) -> None:
        runs = visual_runs("a\u200db\u2060c")
        self.assertEqual([(run.start, run.end) for run in runs], [(0, 5)])


class MissingLetters(unittest.TestCase):
    def test_named_by_character_and_place_and_never_drawn(self) -> None:
        for face_id in ("cinzel-semibold", "hershey-sans"):
            with self.subTest(face_id):
                face = shipped_face(face_id)
                shaped = face.shape("Aア仮B")
                self.assertEqual([(m.character, m.index) for m in shaped.missing],
                                 [("ア", 1), ("仮", 2)])  # fmt: skip
                self.assertIn("place 2", str(shaped.missing[0]))
                for cluster in shaped.clusters[1:3]:
                    self.assertFalse(face.cluster_outline(cluster.glyphs))

    def test_stroke_face_composes_accents(self) -> None:
        face = shipped_face("hershey-sans")
        plain, accented = (
            face.cluster_outline(face.shape(letter).clusters[0].glyphs) for letter in "eé"
        )
        self.assertGreater(accented.bounds()[3], plain.bounds()[3])
        self.assertEqual(face.shape("é").missing, ())
        self.assertEqual(len(face.shape("e\u0301").clusters), 1)


class Outlines(unittest.TestCase):
    def test_overlaps_within_a_glyph_are_gone(self) -> None:
        """Cinzel's E is built of eleven overlapping parts; as ink it is one contour."""
        face = shipped_face("cinzel-semibold")
        outline = face.cluster_outline(face.shape("E").clusters[0].glyphs)
        self.assertEqual(outline.operations.count("M"), 1)

    def test_clean_faces_keep_their_own_curves(self) -> None:
        face = shipped_face("lato-bold")
        font = TTFont(FONTS / "lato-bold.ttf")
        pen = AreaPen(font.getGlyphSet())
        font.getGlyphSet()["S"].draw(pen)
        outline = face.cluster_outline(face.shape("S").clusters[0].glyphs)
        self.assertAlmostEqual(signed_area(outline), pen.value)

    def test_every_outline_is_closed(self) -> None:
        for face_id in catalogue():
            face = shipped_face(face_id)
            if face.single_stroke:
                continue
            with self.subTest(face_id):
                for cluster in face.shape("Quillmère & Fär 0123456789 ÆØ").clusters:
                    operations = face.cluster_outline(cluster.glyphs).operations
                    self.assertEqual(operations.count("M"), operations.count("Z"))

    def test_bounds_are_of_the_curve_and_not_of_its_handles(self) -> None:
        arch = Outline("MQZ", np.array([[0.0, 0.0], [5.0, 10.0], [10.0, 0.0]]))
        self.assertEqual(arch.bounds(), (0.0, 0.0, 10.0, 5.0))


def small_font(**os2: int) -> bytes:
    """A font with a square H, to be broken or read."""
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "H", "space"])
    builder.setupCharacterMap({ord("H"): "H", ord(" "): "space"})
    pen = TTGlyphPen(None)
    for index, point in enumerate([(50, 0), (50, 640), (550, 640), (550, 0)]):
        (pen.lineTo if index else pen.moveTo)(point)
    pen.closePath()
    empty = TTGlyphPen(None).glyph()
    builder.setupGlyf({".notdef": empty, "H": pen.glyph(), "space": empty})
    builder.setupHorizontalMetrics({".notdef": (500, 0), "H": (600, 50), "space": (250, 0)})
    builder.setupHorizontalHeader(ascent=810, descent=-190)
    builder.setupNameTable({"familyName": "Test", "styleName": "Regular"})
    builder.setupOS2(**os2)
    builder.setupPost()
    out = io.BytesIO()
    builder.save(out)
    return out.getvalue()


class FontFiles(unittest.TestCase):
    def test_heights_that_the_table_lacks_are_measured_and_said(self) -> None:
        face = OutlineFace(small_font(sCapHeight=0, sxHeight=0, sTypoAscender=0, sTypoDescender=0))
        self.assertEqual(face.metrics.cap_height, 640)
        self.assertIn("measured on H", face.metrics.sources["cap_height"])
        self.assertEqual(face.metrics.x_height, 500)
        self.assertIn("of the em", face.metrics.sources["x_height"])
        self.assertEqual((face.metrics.ascender, face.metrics.descender), (810, -190))

    def test_woff2_reads_like_its_plain_font(self) -> None:
        font = TTFont(io.BytesIO(small_font(sCapHeight=640)))
        font.flavor = "woff2"
        packed = io.BytesIO()
        font.save(packed)
        self.assertEqual(OutlineFace(packed.getvalue()).shape("H").clusters[0].advance, 600)

    def test_broken_files_are_refused(self) -> None:
        whole = small_font(sCapHeight=640)
        for name, data in {
            "empty": b"",
            "text": b"not a font at all",
            "cut off": whole[:200],
            "header only": whole[:12] + bytes(400),
        }.items():
            with self.subTest(name), self.assertRaises(FaceError):
                OutlineFace(data)


if __name__ == "__main__":
    unittest.main()
