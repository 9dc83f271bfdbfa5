"""Letterings in the browser: bands, dials, repeats, single letters, added faces."""

from __future__ import annotations

import math
import re
import unittest
from typing import Any

import numpy as np
import svgelements
from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest
from tests.formats.fonts import made_font
from tests.makings import joint_gaps


class Bands(LetteringTest):
    def test_top_and_bottom_of_one_ring(self) -> None:
        page, piece = self.copy_of("Barrel head")
        page.get_by_role("button", name="PRESSED BY HAND").click()
        page.get_by_role("button", name="Match other").click()
        expect(page.get_by_label("Height", exact=True)).to_have_value("18")
        self.wait_until_kept(page)
        top, bottom = self.settings_of(piece)
        radii = [np.hypot(*one.poses.feet.T).mean() for one in (top, bottom)]
        self.assertAlmostEqual(radii[0] + top.capital, radii[1], places=4)
        self.assertAlmostEqual(radii[1] - bottom.capital, radii[0], places=4)
        for one in (top, bottom):
            self.assertLess(np.abs(one.angles).max(), 90)

    def test_other_side_and_turn_over(self) -> None:
        page, piece = self.copy_of("Barrel head")
        page.get_by_role("button", name="Other side").click()
        expect(page.get_by_role("radio", name="capitals")).to_be_checked()
        self.wait_until_kept(page)
        np.testing.assert_allclose(np.hypot(*self.settings_of(piece)[0].poses.feet.T), 102)
        page.get_by_role("button", name="Turn over").click()
        expect(page.get_by_role("radio", name="anticlockwise")).to_be_checked()
        self.wait_until_kept(page)
        np.testing.assert_allclose(np.hypot(*self.settings_of(piece)[0].poses.feet.T), 120)


class Tables(LetteringTest):
    def test_words_are_taken_from_a_row_of_a_table_or_from_all(self) -> None:
        page, piece = self.copy_of("Barrel head")
        rows = b"Bramley;1809\nRibston;1708\n"
        table = {"name": "trees.csv", "mimeType": "text/csv", "buffer": rows}
        for button, text in (("Ribston 1708", "Ribston 1708"),
                             ("Take all rows", "Bramley 1809 · Ribston 1708")):  # fmt: skip
            page.get_by_role("button", name="words from a table…").click()
            page.locator("input[type=file][accept*=csv]").set_input_files(files=[table])
            page.get_by_role("button", name=button).click()
            self.eventually(
                lambda text=text: any(
                    one["text"] == text for one in self.stored(piece)["letterings"]
                )
            )


class Dials(LetteringTest):
    def test_one_label_is_overridden(self) -> None:
        page, piece = self.copy_of("Press dial")
        labels = page.locator("main [data-lettering=tonnes] .letters path")
        expect(labels).to_have_count(22)
        # The second letter of “15”, three hours round.
        labels.nth(5).click()
        expect(page.get_by_role("heading", name="Label 4 15")).to_be_visible()
        page.get_by_label("Says").fill("half")
        page.get_by_label("Says").press("Enter")
        self.type(page, "Height", "9")
        expect(labels).to_have_count(24)

        def changes() -> list[tuple[int, str, float]]:
            dial = self.stored(piece)["letterings"][0]["dial"]
            return [(c["label"], c["text"], c["height"]) for c in dial["changes"]]

        self.eventually(lambda: changes() == [(3, "half", 9)])
        setting = self.settings_of(piece)[0]
        self.assertEqual([label.text for label in setting.labels][2:5], ["10", "half", "20"])
        page.get_by_role("button", name="Like the others").click()
        expect(labels).to_have_count(22)

    def test_a_dial_from_nothing(self) -> None:
        page, piece = self.copy_of("Barrel head")
        self.show(page, "Spread")
        self.show(page, "numbers, labels")
        expect(page.locator("main [data-lettering=name] .letters path")).to_have_count(15)
        page.get_by_label("Labels", exact=True).select_option("listed words")
        table = page.get_by_label("One label a line", exact=True)
        table.fill("0°: N\n90°: E\n180°: S\n270°: W")
        table.blur()
        page.get_by_text("Ticks", exact=True).click()
        expect(page.locator("main .ticks")).to_have_count(1)
        self.wait_until_kept(page)
        dial = self.stored(piece)["letterings"][0]["dial"]
        self.assertEqual(dial["labels"]["words"], ["N", "E", "S", "W"])
        self.assertEqual(dial["places"], [0, 90, 180, 270])
        setting = self.settings_of(piece)[0]
        turns = np.unwrap(np.arctan2(*setting.frames.points.T))
        np.testing.assert_allclose(np.diff(turns), math.pi / 2, atol=0.02)


class Phrases(LetteringTest):
    def test_a_phrase_on_fourteen_places_says_what_it_lacks_and_is_mended(self) -> None:
        page, piece = self.copy_of("Barrel head")
        letters = page.locator("main [data-lettering=name] .letters path")
        self.show(page, "Spread")
        self.show(page, "letter by letter")
        page.get_by_label("Places", exact=True).select_option("by number")
        self.type(page, "Guide divided into", "14")
        expect(page.get_by_text("no place for “A”, “R”, “D”")).to_be_visible()
        expect(letters).to_have_count(13)
        page.get_by_text("A space holds a place").click()
        expect(page.get_by_text("16 letters, 14 places: no place for “R”, “D”")).to_be_visible()
        page.get_by_role("button", name="16 places, evenly").click()
        expect(letters).to_have_count(16)
        self.wait_until_kept(page)
        self.assertEqual(len(self.settings_of(piece)[0].clusters), 16)

    def test_words_are_typed_once_and_spread_over_an_open_guide(self) -> None:
        page, piece = self.copy_of("Cider press banner")
        self.show(page, "Spread")
        self.show(page, "letter by letter")
        self.show(page, "Words")
        page.get_by_role("textbox", name="Words").fill("PEARS")
        expect(page.locator("main [data-lettering] .letters path")).to_have_count(5)
        self.wait_until_kept(page)
        found = self.settings_of(piece)[0]
        ends = [found.labels[0].station, found.labels[-1].station]
        np.testing.assert_allclose(ends, [0, found.guide.length], atol=1e-6)


class Repeats(LetteringTest):
    def test_a_repeat_with_its_separator_is_even_in_the_exported_file(self) -> None:
        page, piece = self.copy_of("Windfall wreath")
        self.show(page, "Spread")
        self.type(page, "How often", "4")
        page.get_by_label("Between them", exact=True).select_option("star")
        self.type(page, "Its height", "50")
        letters = page.locator("main [data-lettering=windfall] .letters path")
        expect(letters).to_have_count(36)
        self.wait_until_kept(page)
        self.assertLessEqual(np.ptp(joint_gaps(self.settings_of(piece)[0])), 1e-6)
        group = next(g for g in self.exported(page) if g.id == "cut-WINDFALL")
        paths = [e for e in group if isinstance(e, svgelements.Path)]
        self.assertEqual(len(paths), 36)
        middles = []
        for star in paths[8::9]:
            x0, y0, x1, y1 = star.bbox()
            middles.append(((x0 + x1) / 2, (y0 + y1) / 2))
        # The page's origin is not the ring's middle: distances from star to star are the same.
        square = np.array(middles)
        sides = np.hypot(*(square - np.roll(square, -1, axis=0)).T)
        self.assertLess(np.ptp(sides), 2e-3)
        self.assertGreater(sides.min(), 100)


class Letters(LetteringTest):
    """One letter, one gap, on the strip and by figure."""

    def letter(self, page: Page, number: int) -> Any:
        return page.locator("section [data-lettering=name] .letters path").nth(number)

    def hand(self, piece: str) -> list[dict[str, Any]]:
        return self.stored(piece)["letterings"][0]["hand"]

    def test_kerning_one_gap_on_the_strip(self) -> None:
        page, piece = self.copy_of("Barrel head")
        before = self.settings_of(piece)[0].gaps.found
        line = page.locator("section [data-lettering=name]").first.bounding_box()
        bars = page.locator("section path.bars").first.bounding_box()
        assert line and bars
        # The bar under the pair U I, the second gap of the words.
        u, i = (self.letter(page, number).bounding_box() for number in (1, 2))
        assert u and i
        x = (u["x"] + u["width"] + i["x"]) / 2
        page.mouse.move(x, bars["y"] + 8)
        page.mouse.down()
        page.mouse.move(x + 24, bars["y"] + 8, steps=8)
        page.mouse.up()
        expect(page.get_by_role("heading", name="Letter U by hand")).to_be_visible()
        self.wait_until_kept(page)
        (nudge,) = self.hand(piece)
        self.assertEqual(nudge["letter"], 1)
        self.assertGreater(nudge["gap"], 3)
        after = self.settings_of(piece)[0].gaps.found
        self.assertAlmostEqual(after[1] - before[1], nudge["gap"], delta=0.1 * nudge["gap"])
        np.testing.assert_allclose(np.delete(after, 1), np.delete(before, 1), atol=1e-6)
        self.type(page, "Gap opened by", "0.5")
        self.eventually(lambda: [one["gap"] for one in self.hand(piece)] == [0.5])
        page.get_by_role("button", name="Put back", exact=True).click()
        self.eventually(lambda: self.hand(piece) == [])

    def test_a_letter_is_chosen_moved_and_turned(self) -> None:
        page, piece = self.copy_of("Barrel head")
        self.letter(page, 3).click()
        expect(page.get_by_role("heading", name="Letter L by hand")).to_be_visible()
        self.letter(page, 5).click(modifiers=["Shift"])
        expect(page.get_by_role("heading", name="2 letters L M by hand")).to_be_visible()
        page.keyboard.press("Shift+ArrowUp")
        page.keyboard.press("ArrowRight")
        page.keyboard.press("]")
        expect(page.get_by_label("Gap opened by")).to_have_value("0.1")
        self.type(page, "Turned", "5")
        self.eventually(lambda: [one["turn"] for one in self.hand(piece)] == [5, 5])
        for nudge, letter in zip(self.hand(piece), (3, 5), strict=True):
            self.assertEqual(
                (nudge["letter"], nudge["across"], nudge["along"], nudge["turn"], nudge["gap"]),
                (letter, 1, 0.1, 5, 0.1),
            )
        # The words change, and the letters that are still there keep what was done to them.
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Done").click()
        page.get_by_role("textbox", name="Words").fill("OLD QUILLMERE")
        page.get_by_role("textbox", name="Words").press("Enter")
        self.wait_until_kept(page)
        turned = np.flatnonzero(np.abs(np.diff(self.settings_of(piece)[0].angles, prepend=0)) > 9)
        self.assertEqual(len(self.settings_of(piece)[0].nudges), 2)
        self.assertTrue(len(turned) >= 1)

    def test_a_chosen_letter_follows_the_pointer_on_the_drawing(self) -> None:
        page, piece = self.copy_of("Barrel head")
        letters = page.locator("main [data-lettering=name] .letters path")
        letters.nth(8).click()
        expect(page.get_by_role("heading", name=re.compile("^Letter"))).to_be_visible()
        self.drag(page, letters.nth(8), 0, -20)
        self.wait_until_kept(page)
        (nudge,) = self.hand(piece)
        self.assertGreater(nudge["across"], 3)
        page.keyboard.press("Delete")
        expect(page.get_by_label("Moved up")).to_have_value("0")


class EvenGaps(LetteringTest):
    """Even at a press, the face's own while a key is held."""

    def test_e_makes_even_and_b_compares(self) -> None:
        page, piece = self.copy_of("Beehive arch")
        own = self.settings_of(piece)[0]
        page.get_by_role("application").focus()
        page.keyboard.press("e")
        expect(page.get_by_role("button", name="even", exact=True)).to_have_attribute(
            "aria-pressed", "true"
        )
        expect(page.get_by_text("even to 0.1 %")).to_be_visible()
        self.eventually(lambda: self.stored(piece)["letterings"][0]["spacing"] == "even")
        even = self.settings_of(piece)[0]
        self.assertGreater(np.abs(even.middles - own.middles).max(), 0.3)
        page.keyboard.down("b")
        expect(page.get_by_text("as the face spaces it")).to_be_visible()
        page.keyboard.up("b")
        expect(page.get_by_text("even to 0.1 %")).to_be_visible()
        self.assertEqual(self.stored(piece)["letterings"][0]["spacing"], "even")
        page.keyboard.press("e")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["spacing"] == "same")
        page.keyboard.press("e")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["spacing"] == "font")


class Remedies(LetteringTest):
    def test_an_overflow_says_its_figures_and_is_mended_by_one_click(self) -> None:
        page, piece = self.copy_of("Beehive arch")
        self.type(page, "Height", "24")
        notice = page.get_by_role("status").filter(has_text="do not fit")
        expect(notice).to_contain_text("mm of this lettering")
        notice.get_by_role("button", name=re.compile("^smaller")).click()
        expect(notice).to_have_count(0)
        self.wait_until_kept(page)
        lettering = self.stored(piece)["letterings"][0]
        self.assertTrue(14 < lettering["height"] < 24)


class Lines(LetteringTest):
    def test_a_second_line_by_shift_and_enter(self) -> None:
        page, piece = self.copy_of("Beehive arch")
        words = page.get_by_role("textbox", name="Words")
        words.press("End")
        words.press("Shift+Enter")
        words.type("2026")
        expect(page.locator("main [data-line='1'] .letters path")).to_have_count(4)
        words.press("Enter")
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][0]["text"], "QUILLMERE HONEY\n2026")


class Faces(LetteringTest):
    def add(self, page: Page, name: str, data: bytes) -> None:
        page.get_by_label("A font file").set_input_files(
            {"name": name, "mimeType": "font/ttf", "buffer": data}
        )

    def test_adding_a_broken_font_says_why_and_changes_nothing(self) -> None:
        page, piece = self.copy_of("Barrel head")
        before = self.stored(piece)
        page.get_by_role("button", name=re.compile("^Face")).click()
        self.add(page, "orchard.ttf", made_font()[:250])
        alert = page.get_by_role("alert")
        expect(alert).to_contain_text("orchard.ttf was not added")
        self.assertEqual(self.stored(piece), before)

    def test_a_good_font_is_tried_taken_and_used(self) -> None:
        page, piece = self.copy_of("Barrel head")
        page.get_by_role("button", name=re.compile("^Face")).click()
        self.add(page, "square.ttf", made_font())
        self.wait_until_kept(page)
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.get_by_role("textbox", name="Words").fill("AAA")
        page.get_by_role("textbox", name="Words").press("Enter")
        expect(page.locator("main [data-lettering=name] .letters path")).to_have_count(3)
        self.wait_until_kept(page)
        self.assertRegex(self.stored(piece)["letterings"][0]["face"], "^square-[0-9a-f]{6}$")
        page.get_by_role("button", name=re.compile("^Face")).click()
        page.get_by_role("button", name="take out").click()
        expect(page.get_by_text("is no longer offered")).to_be_visible()
        page.get_by_role("button", name="Bring it back").click()
        expect(page.get_by_role("button", name="take out")).to_be_visible()

    def test_faces_by_what_they_are_good_for(self) -> None:
        page, _ = self.copy_of("Barrel head")
        page.get_by_role("button", name=re.compile("^Face")).click()
        page.get_by_label("Good for").select_option("joined")
        pictures = page.get_by_role("dialog").locator("img")
        expect(pictures).to_have_count(1)
        expect(page.get_by_role("button", name=re.compile("^Dancing Script"))).to_be_visible()


if __name__ == "__main__":
    unittest.main()
