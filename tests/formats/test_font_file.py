"""Font files that are added: told apart, tried out, read or refused with a reason."""

from __future__ import annotations

import io
import random
import unittest

import numpy as np
from fontTools.ttLib import TTFont

from tests.formats.fonts import SVG_FONT, as_flavour, made_font
from ulvent.core.base.errors import FaceError, FontFileError
from ulvent.formats.fonts.font_file import FontFacts, font_format, read_font, try_font
from ulvent.formats.fonts.font_trial import licence_words
from ulvent.formats.fonts.svg_font import read_svg_font
from ulvent.shipped_faces import FONTS


class Read(unittest.TestCase):
    def test_every_format_gives_the_same_letters(self) -> None:
        plain = made_font()
        boxes = []
        for kind, data in (("ttf", plain), ("woff", as_flavour(plain, "woff")),
                           ("woff2", as_flavour(plain, "woff2"))):  # fmt: skip
            self.assertEqual(font_format(data), kind)
            face = read_font(data, "x")
            boxes.append(face.glyph_outline(1).bounds())
            self.assertEqual(face.shape("A").clusters[0].advance, 600)
        self.assertEqual(boxes, [(0, 0, 500, 700)] * 3)

    def test_facts_are_those_of_the_file(self) -> None:
        """Against fontTools' own reading of the file."""
        data = (FONTS / "zilla-slab-semibold.ttf").read_bytes()
        table = TTFont(io.BytesIO(data))
        facts = try_font(data, "x")
        self.assertEqual(facts.glyphs, table["maxp"].numGlyphs)
        self.assertEqual(facts.characters, len(table.getBestCmap()))
        self.assertEqual(facts.name, table["name"].getDebugName(4))
        self.assertEqual(facts.format, "ttf")

    def test_licence_bits_are_said(self) -> None:
        """OpenType specification, OS/2 fsType."""
        self.assertIn("restricted", try_font(made_font(bits=0x0002), "x").licence)
        self.assertIn("preview", licence_words(0x0004))
        self.assertEqual(licence_words(0x0108), "editable embedding, no subsetting")
        self.assertIn("no restriction", licence_words(0))


class SvgFonts(unittest.TestCase):
    def test_strokes_stay_strokes_and_curves_stay_curves(self) -> None:
        face = read_svg_font(SVG_FONT.encode(), "x")
        self.assertTrue(face.single_stroke)
        self.assertEqual((face.name, face.metrics.cap_height), ("Twig", 700))
        self.assertEqual(face.metrics.descender, -200)
        shaped = face.shape("IxO")
        self.assertEqual([c.advance for c in shaped.clusters], [200, 600, 600])
        stem, cross, ring = (face.cluster_outline(c.glyphs) for c in shaped.clusters)
        self.assertEqual(stem.bounds(), (100, 0, 100, 700))
        self.assertEqual(cross.operations, "MLMQ")
        self.assertIn("C", ring.operations)
        np.testing.assert_allclose(ring.bounds(), (50, 0, 550, 700), atol=0.5)
        self.assertEqual(str(face.shape("Z").missing[0].character), "Z")

    def test_what_is_wrong_is_said(self) -> None:
        for text, reason in (
            ("<svg/>", "holds no font"),
            ("<svg><font/></svg>", "font-face"),
            (SVG_FONT.replace('horiz-adv-x="200"', 'horiz-adv-x="wide"'), "not a number"),
            (SVG_FONT.replace('<font horiz-adv-x="600">', "<font>"), "horiz-adv-x"),
            ("<!DOCTYPE svg [<!ENTITY a 'b'>]>" + SVG_FONT, "cannot be read"),
            (SVG_FONT[:200], "cannot be read"),
        ):
            with self.assertRaisesRegex(FaceError, reason):
                read_svg_font(text.encode(), "x")


class Refused(unittest.TestCase):
    def test_what_is_no_font_is_refused_before_it_is_drawn(self) -> None:
        for data, reason in (
            (b"", "empty"),
            (b"  \n", "empty"),
            (b"GIF89a" + b"x" * 50, "not a font file"),
            (b"ttcf" + b"\0" * 50, "collection"),
            (b"\0\1\0\0" + b"x" * 17_000_000, "larger than"),
        ):
            with self.assertRaisesRegex(FontFileError, reason):
                try_font(data, "x")

    def test_what_is_broken_inside_is_refused_with_a_reason(self) -> None:
        good = made_font()
        for data in (good[:200], good[:-300], b"\0\1\0\0" + b"\0" * 60):
            with self.assertRaises(FontFileError) as caught:
                try_font(data, "x")
            self.assertGreater(len(str(caught.exception)), 10)
        far = made_font(corner=32000)
        with self.assertRaisesRegex(FontFileError, "reaches farther"):
            try_font(far, "x")

    def test_a_bomb_ends_its_own_process_only(self) -> None:
        """A WOFF2 that unpacks to far more than its process may hold."""
        import brotli

        font = bytearray(as_flavour(made_font(), "woff2"))
        packer = brotli.Compressor(quality=1)
        bomb = [packer.process(bytes(1 << 20)) for _ in range(2500)]
        data = bytes(font[:48]) + b"".join([*bomb, packer.finish()])
        with self.assertRaises(FontFileError):
            try_font(data, "x")

    def test_damaged_files_are_read_or_refused_and_nothing_else(self) -> None:
        """A thousand copies of a font with bytes changed, read in this process: each gives
        a face or a FaceError. Seeds are fixed, so that a failure can be met again."""
        good = made_font()
        for seed in range(1000):
            chance = random.Random(seed)
            data = bytearray(good)
            for _ in range(chance.randint(1, 12)):
                data[chance.randrange(len(data))] = chance.randrange(256)
            try:
                face = read_font(bytes(data), "x")
                face.shape("A")
            except FaceError as error:
                self.assertTrue(str(error))

    def test_a_good_file_passes(self) -> None:
        facts = try_font(made_font(), "x")
        self.assertIsInstance(facts, FontFacts)
        self.assertEqual((facts.glyphs, facts.characters, facts.name), (2, 1, "Square"))
