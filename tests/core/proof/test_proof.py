"""The proof of what is cut: findings with place, figure, limit and remedy, and the material."""

from __future__ import annotations

import itertools
import unittest
from typing import Any

import numpy as np
import shapely

from tests.areas import as_shapely, polygons_of
from tests.makings import BOARD_RING, LINE, RING, board, document, found_in, laid, laid_out, proofed
from ulvent.core.layout import Layout, lay_out
from ulvent.core.prepare import prepared
from ulvent.core.proof import Finding, material
from ulvent.core.proof.crossing_letters import crossing_letters
from ulvent.core.recipe import PLAIN, TOOL_SHEETS, Piece, ToolSheet, parse_piece
from ulvent.core.shapes import Region
from ulvent.shipped_faces import face_named

SHEETS = {sheet.id: sheet for sheet in TOOL_SHEETS}
STENCIL, VINYL = SHEETS["stencil-blade"], SHEETS["vinyl-blade"]


def against(layout: Layout, *sheets: ToolSheet, **more: Any) -> Layout:
    held = {"tool_sheets": [sheet.model_dump() for sheet in sheets], **more}
    return lay_out(Piece.model_validate(layout.piece.model_dump() | held), face_named)


def findings(layout: Layout, kind: str) -> list[Finding]:
    return [finding for finding in proofed(layout).findings if finding.kind == kind]


class Parts(unittest.TestCase):
    def test_counters_fall_out_of_a_stencil_and_bridges_mend_it(self) -> None:
        layout = against(board("BOARD", height=30), STENCIL)
        (found,) = findings(layout, "falls-out")
        self.assertEqual((found.severity, found.figure), ("fault", 6.0))
        (remedy,) = found.remedies
        lettering = layout.piece.letterings[0].model_dump() | remedy.changes
        mended = against(
            lay_out(
                parse_piece(layout.piece.model_dump() | {"letterings": [lettering]}), face_named
            ),
            STENCIL,
        )
        self.assertEqual(findings(mended, "falls-out"), [])

    def test_both_ways_of_using_a_sheet_share_it_out_and_number_every_part(self) -> None:
        ready = prepared(board("BOARD", at=80))
        blank = polygons_of(ready.blank).area
        for use, parts, loose in (("kept", 5, 0), ("removed", 7, 6)):
            stuff = material(ready.layers, ready.blank, use)
            self.assertAlmostEqual(stuff.stays.area + stuff.falls.area, blank, places=3)
            self.assertEqual((len(stuff.parts), len(stuff.loose)), (parts, loose))
            self.assertEqual([p.number for p in stuff.parts], list(range(1, parts + 1)))
            areas = [part.area for part in stuff.parts]
            self.assertEqual(areas, sorted(areas, reverse=True))
            for part in stuff.parts:
                self.assertTrue(polygons_of(part.region).covers(shapely.Point(part.at)))

    def test_dots_come_off_by_themselves(self) -> None:
        (found,) = findings(against(board("ij", height=30), VINYL), "loose-part")
        self.assertEqual((found.severity, found.figure), ("hint", 2.0))

    def test_small_parts_and_low_letters(self) -> None:
        layout = against(board("i.", height=4), VINYL)
        (small,) = findings(layout, "small-part")
        self.assertLess(small.figure, small.limit)
        (low,) = findings(layout, "low-letters")
        self.assertEqual((low.figure, low.limit), (4.0, 6.0))


class Widths(unittest.TestCase):
    def test_thin_strokes_are_found_with_their_place_and_figure(self) -> None:
        layout = against(board("TH", face="eb-garamond", height=12), VINYL)
        (found,) = findings(layout, "thin")
        self.assertLess(found.figure, found.limit)
        letters = polygons_of(prepared(layout).layers[0].area)
        for place in found.places:
            self.assertTrue(letters.buffer(0.01).covers(shapely.Point(place)))

    def test_a_gap_that_is_too_narrow_names_its_pair(self) -> None:
        layout = against(board("HI", tracking=-2.6, height=12), VINYL)
        (found,) = findings(layout, "narrow-gap")
        one, two = (polygons_of(p.area) for p in prepared(layout).layers[0].cutouts)
        self.assertAlmostEqual(found.figure, one.distance(two), delta=1e-3)
        self.assertIn("HI", found.letters)

    def test_letterings_that_come_near_to_one_another(self) -> None:
        document = board("HHH").piece.model_dump()
        (first,) = document["letterings"]
        document["letterings"] = [first, first | {"id": "more", "standoff": 20.3}]
        layout = against(lay_out(parse_piece(document), face_named), VINYL)
        across = [f for f in findings(layout, "narrow-gap") if not f.lettering]
        self.assertEqual(len(across), 1)
        self.assertAlmostEqual(across[0].figure, 0.3, delta=0.01)

    def test_a_round_cutter_leaves_corners(self) -> None:
        found = findings(against(board("KE"), SHEETS["acrylic-cutter"]), "unreached")
        self.assertTrue(found)
        self.assertGreater(found[0].figure, 0.0)


class Outlines(unittest.TestCase):
    def test_letters_that_run_into_each_other_are_a_fault_that_joining_mends(self) -> None:
        layout = board("AVAV", tracking=-7)
        (found,) = findings(layout, "touching")
        self.assertEqual(found.severity, "fault")
        self.assertEqual(findings(board("AVAV", {"join": {}}, tracking=-7), "touching"), [])
        self.assertEqual(found.remedies[0].changes["prepare"]["join"], {"over": 0.0})

    def test_what_is_outside_of_the_blank_is_measured(self) -> None:
        layout = board("OAK", blank={"kind": "rectangle", "width": 500, "height": 30})
        (found,) = findings(layout, "outside-blank")
        top = max(piece.area.bounds[3] for piece in prepared(layout).layers[0].cutouts)
        self.assertAlmostEqual(found.figure, top - 15.0, delta=0.01)

    def test_a_stroke_across_a_notch_is_outside_with_no_corner_of_it(self) -> None:
        banner = {"kind": "banner", "width": 400, "height": 120, "notch": 25}
        notch = shapely.Polygon([(200, 60), (175, 0), (200, -60)])
        line = {"kind": "line", "length": 20, "centre": [175, -35]}
        words = {"id": "t", "guide": "a", "text": "I", "face": "lato-bold", "height": 70}
        layout = laid(document(guides=[{"id": "a", **line}], blank=banner, letterings=[words]))
        (stroke,) = polygons_of(prepared(layout).layers[0].area).geoms
        self.assertTrue(all(not notch.contains(shapely.Point(at)) for at in stroke.exterior.coords))
        (found,) = findings(layout, "outside-blank")
        within = stroke.intersection(notch)
        far = max(
            notch.exterior.distance(shapely.Point(at))
            for at in within.segmentize(0.05).exterior.coords
        )
        self.assertAlmostEqual(found.figure, far, delta=0.05)

    def test_and_outside_of_what_the_tool_reaches(self) -> None:
        layout = board("OAK")
        piece = layout.piece.model_dump() | {"area": {"width": 20, "height": 300}}
        self.assertTrue(findings(lay_out(parse_piece(piece), face_named), "outside-area"))

    def test_lines_on_top_of_each_other(self) -> None:
        document = board("OAK").piece.model_dump()
        (first,) = document["letterings"]
        document["letterings"] = [first, first | {"id": "again"}]
        layout = lay_out(parse_piece(document), face_named)
        (found,) = findings(layout, "double-line")
        once = sum(polygons_of(p.area).length for p in prepared(layout).layers[0].cutouts)
        self.assertAlmostEqual(found.figure / once, 1.0, delta=0.1)
        self.assertEqual(findings(board("OAK"), "double-line"), [])

    def test_a_line_that_is_cut_along_the_edge_is_seen(self) -> None:
        """A ring of 90 mm on the edge of a disc of 90 mm: 282.7 mm are cut twice."""
        ring = {**BOARD_RING, "output": "cut"}
        disc = {"kind": "disc", "diameter": 90}
        words = {"id": "t", "guide": "ring", "text": "OAK", "face": "lato-bold", "height": 9,
                 "standoff": -20}  # fmt: skip
        piece = {"ulvent": 1, "blank": disc, "guides": [ring], "letterings": [words]}
        self.assertEqual(findings(laid(piece), "double-line"), [])
        (found,) = findings(laid({**piece, "edge": "cut"}), "double-line")
        self.assertAlmostEqual(found.figure / (np.pi * 90.0), 1.0, delta=0.02)

    def test_letters_and_marks_that_are_cut_away_wholly_are_named(self) -> None:
        cut = {"cut_back": [{"to": "ring", "keep": "inside"}]}
        mark = {"kind": "dot", "size": 0.3}
        layout = board("O OAK", cut, at=60, ends=mark)
        (found,) = findings(layout, "cut-away")
        (line,) = layout.settings
        disc = shapely.Point(0, 0).buffer(45.0, 720)
        gone = [
            line.clusters[index].text
            for index in range(len(line.clusters))
            if polygons_of(Region.of(line.placed_outline(index))).intersection(disc).area < 1e-6
        ]
        self.assertTrue(gone)
        self.assertEqual(list(found.letters), gone)
        self.assertEqual(found.severity, "fault")
        self.assertEqual(findings(board("OAK", cut, at=78), "cut-away"), [])

    def test_bent_letters_that_cross_themselves(self) -> None:
        tight = {"id": "line", "kind": "path", "d": "M0 0 L20 0 C30 0 30 10 20 10 L0 10"}
        layout = board("MWMWMW", guides=(tight, BOARD_RING), shape="bent", height=12)
        crossing = findings(layout, "crossing")
        self.assertTrue(crossing)
        self.assertEqual(findings(board("WWWW"), "crossing"), [])

    def test_a_clean_piece_has_nothing_against_it(self) -> None:
        layout = against(board("OAK", height=30, at=100), VINYL)
        self.assertEqual(proofed(layout).findings, ())


class Crossing(unittest.TestCase):
    """Letters that lie on each other in the layout, held against shapely on the set outlines."""

    GUIDES = (
        {"kind": "rectangle", "width": 160, "height": 90, "corners": "keep-off"},
        {"kind": "polygon", "sides": 6, "across": 140, "corners": "pass"},
        {"kind": "drawn", "nodes": [{"at": at} for at in (
            [-60, 0], [-30, 30], [-20, -10], [10, 25], [30, -20], [60, 10])]},
        RING,
    )  # fmt: skip

    def test_what_is_said_is_what_is(self) -> None:
        said = 0
        for guide, spacing, shape in itertools.product(
            self.GUIDES, ("font", "even", "same"), ("rigid", "bent")
        ):
            with self.subTest(guide["kind"], spacing=spacing, shape=shape):
                layout = laid_out(guide, text="HONEY", height=10, spacing=spacing, shape=shape,
                                  repeat={}, at=37)  # fmt: skip
                (found,) = layout.settings
                letters = [as_shapely(found.placed_outline(index)).buffer(0)
                           for index in range(len(found.clusters))]  # fmt: skip
                near = shapely.STRtree(letters).query(letters, predicate="intersects").T
                crossing = {
                    (one, two)
                    for one, two in near.tolist()
                    if one < two and letters[one].intersection(letters[two]).area > 0.02
                }
                mine = {(one, two) for one, two, area in crossing_letters(found)[0] if area > 0.02}
                self.assertEqual(mine, crossing)
                kinds = [finding.kind for finding in found_in(layout)]
                self.assertEqual("crossing-letters" in kinds, bool(crossing_letters(found)[0]))
                said += len(crossing)
        self.assertGreater(said, 20)

    def test_letters_that_keep_off_corners_lie_on_no_other(self) -> None:
        """Whatever the gaps, and however often: as often as there is room beside the corners."""
        sides = {"kind": "polygon", "sides": 6, "across": 140, "corners": "keep-off"}
        for guide, spacing, shape, repeat in itertools.product(
            (self.GUIDES[0], sides), ("font", "even", "same"), ("rigid", "bent"),
            ({}, {"times": 4}, {"separator": {"kind": "dot"}}),
        ):  # fmt: skip
            with self.subTest(guide["kind"], spacing=spacing, shape=shape, repeat=repeat):
                layout = laid_out(guide, text="HONEY", height=10, spacing=spacing, shape=shape,
                                  repeat=repeat, at=37)  # fmt: skip
                (found,) = layout.settings
                letters = [as_shapely(found.placed_outline(index)).buffer(0)
                           for index in range(len(found.clusters))]  # fmt: skip
                common = [
                    one.intersection(two).area for one, two in itertools.combinations(letters, 2)
                ]
                self.assertLess(max(common), 0.02)
                self.assertGreaterEqual(len(found.clusters), 20)

    def test_letters_that_overlap_by_design_are_not_said(self) -> None:
        for face, changes in (("kaushan-script", {}), ("lato-bold", {"spacing": "overlap"})):
            layout = laid_out(LINE, text="Orchard", face=face, height=20, **changes)
            self.assertEqual(crossing_letters(layout.settings[0]), ([], False))


class Accepting(unittest.TestCase):
    def test_an_accepted_finding_stays_so_until_its_figure_gets_worse(self) -> None:
        layout = against(board("HI", tracking=-2.6, height=12), VINYL)
        (found,) = findings(layout, "narrow-gap")
        accepted = ({"key": found.key, "sheet": found.sheet, "figure": found.figure},)
        (same,) = findings(against(layout, VINYL, accepted=accepted), "narrow-gap")
        self.assertTrue(same.accepted)
        worse = board("HI", tracking=-2.63, height=12)
        (now,) = findings(against(worse, VINYL, accepted=accepted), "narrow-gap")
        self.assertFalse(now.accepted)
        better = board("HI", tracking=-2.55, height=12)
        (now,) = findings(against(better, VINYL, accepted=accepted), "narrow-gap")
        self.assertTrue(now.accepted)

    def test_more_pairs_that_come_too_near_are_worse(self) -> None:
        """The figure counts pairs; what counts as worse for a distance would be fewer of them."""
        words: dict[str, Any] = {"text": "ffe ffe", "face": "alfa-slab-one", "height": 14}
        ring = {"kind": "circle", "diameter": 36, "turn": "counterclockwise"}
        layout = laid_out(ring, spacing="even", align="centre", **words)
        (found,) = [one for one in found_in(layout) if one.kind == "near-letters"]
        self.assertEqual((found.figure, found.unit), (2.0, "letters"))
        for before, accepted in ((1.0, False), (2.0, True), (3.0, True)):
            held = {"key": found.key, "sheet": found.sheet, "figure": before}
            (now,) = [one for one in found_in(against(layout, accepted=(held,)))
                      if one.kind == "near-letters"]  # fmt: skip
            self.assertIs(now.accepted, accepted, before)

    def test_an_accepted_fault_is_none(self) -> None:
        layout = against(board("BOARD", height=30), STENCIL)
        (found,) = findings(layout, "falls-out")
        accepted = ({"key": found.key, "sheet": found.sheet, "figure": found.figure},)
        self.assertEqual(proofed(against(layout, STENCIL, accepted=accepted)).faults, ())


class Runs(unittest.TestCase):
    def test_what_may_be_forgotten_on_a_run_sheet_is_said_and_mended(self) -> None:
        passes = [{"id": "a", "tool": "pen", "works": [{"what": "letters", "of": "t"}]},
                  {"id": "b", "name": "Out", "tool": "blade", "works": [{"what": "edge"}],
                   "held": True}]  # fmt: skip
        words = {"id": "t", "guide": "a", "text": "PEAR", "face": "lato-bold", "height": 12}
        piece = document(guides=[{"id": "a", "kind": "line", "length": 90}], letterings=[words],
                         run={"passes": passes, "rehearsal": "path"})  # fmt: skip
        held, rehearsal = (findings(laid(piece), kind)[0] for kind in ("held-back", "rehearsal"))
        self.assertEqual(held.message, "1 pass is held back: “Out”")
        self.assertEqual((held.severity, rehearsal.severity), ("hint", "warning"))
        for finding in (held, rehearsal):
            mended = piece | finding.remedies[0].changes
            self.assertEqual(findings(laid(mended), finding.kind), [])
        self.assertEqual(findings(laid(piece | {"run": None}), "rehearsal"), [])

    def test_a_cutter_without_a_depth_is_said(self) -> None:
        words = {"id": "t", "guide": "a", "text": "PEAR", "face": "lato-bold", "height": 12}
        one = {"id": "a", "tool": "router", "works": [{"what": "letters", "of": "t"}]}
        piece = document(guides=[{"id": "a", "kind": "line", "length": 90}], letterings=[words],
                         run={"passes": [one]})  # fmt: skip
        (found,) = findings(laid(piece), "no-depth")
        self.assertIn("1 pass has no depth", found.message)
        deep = piece | {"run": {"passes": [one | {"depth": 3}]}}
        self.assertEqual(findings(laid(deep), "no-depth"), [])
        sheet = SHEETS["acrylic-cutter"].model_dump()
        self.assertEqual(findings(laid(piece | {"tool_sheets": [sheet]}), "no-depth"), [])


class Sheets(unittest.TestCase):
    def test_a_piece_is_held_against_several_sheets_at_once(self) -> None:
        layout = against(board("BOARD", height=5), STENCIL, VINYL)
        self.assertEqual({f.sheet for f in proofed(layout).findings}, {STENCIL.id, VINYL.id})

    def test_every_shipped_sheet_says_where_its_figures_come_from(self) -> None:
        for sheet in (PLAIN, *TOOL_SHEETS):
            self.assertTrue(sheet.source, sheet.id)

    def test_without_a_sheet_a_plain_one_is_taken(self) -> None:
        self.assertEqual(proofed(board()).sheets, (PLAIN,))

    def test_nothing_is_said_twice(self) -> None:
        layout = against(board("minimum & 8", guide="ring", height=14), STENCIL, VINYL)
        self.assertEqual({f.sheet for f in proofed(layout).findings},
                         {STENCIL.id, VINYL.id})  # fmt: skip
        said = [(f.kind, f.lettering, f.sheet) for f in proofed(layout).findings]
        self.assertEqual(len(said), len(set(said)))
        self.assertTrue(all(np.isfinite(f.figure) for f in proofed(layout).findings))
