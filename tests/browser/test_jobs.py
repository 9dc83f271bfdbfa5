"""Whole jobs as a maker does them, from the shelf to the file."""

from __future__ import annotations

import re
import unittest
from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.application import LetteringTest
from tests.makings import document

SQUARE = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50">'
    '<path d="M0 0H80V50H0Z"/></svg>'
)


class JobTest(LetteringTest):
    def new_piece(self) -> tuple[Page, Any]:
        page = self.open()
        page.get_by_role("button", name="New piece", exact=True).click()
        return page, page.get_by_role("dialog")

    def made(self, page: Page) -> Any:
        expect(page).to_have_url(re.compile("/pieces/"))
        expect(page.locator("main [data-lettering] .letters path").first).to_be_visible()
        return self.stored(page.url.rpartition("/")[2])


class Starting(JobTest):
    def test_words_and_enter_make_a_piece_from_a_starting_point(self) -> None:
        page, dialog = self.new_piece()
        expect(dialog.get_by_label("Words", exact=True)).to_be_focused()
        page.keyboard.type("QUINCE & MEDLAR")
        self.assertIn("a disc", dialog.get_by_label("The blank", exact=True).inner_text())
        page.keyboard.press("Enter")
        piece = self.made(page)
        self.assertEqual(piece["letterings"][0]["text"], "QUINCE & MEDLAR")
        self.assertEqual((piece["blank"]["diameter"], len(piece["letterings"])), (300, 2))

    def test_a_starting_point_is_scaled_to_the_blank(self) -> None:
        page, dialog = self.new_piece()
        dialog.get_by_text("One line on an arch").click()
        dialog.get_by_label("Words", exact=True).fill("PEARS")
        dialog.get_by_label("Width", exact=True).fill("6in")
        dialog.get_by_label("Height", exact=True).fill("100")
        dialog.get_by_label("Height", exact=True).press("Enter")
        piece = self.made(page)
        self.assertEqual((piece["blank"]["width"], piece["blank"]["height"]), (152.4, 100))
        self.assertAlmostEqual(piece["guides"][0]["chord"], 240 * 152.4 / 300, places=3)

    def test_any_blank_and_its_own_edge(self) -> None:
        page, dialog = self.new_piece()
        dialog.get_by_text("Blank and guide of my own").click()
        dialog.get_by_label("Words", exact=True).fill("TAWNY PLUM")
        dialog.get_by_label("The blank", exact=True).select_option("tag")
        dialog.get_by_label("The words follow").select_option("edge")
        dialog.get_by_label("Inside of the edge by").fill("60")
        dialog.get_by_label("Inside of the edge by").press("Tab")
        expect(dialog.get_by_text(re.compile("less than 20"))).to_be_visible()
        dialog.get_by_label("Inside of the edge by").fill("6")
        dialog.get_by_label("Inside of the edge by").press("Tab")
        expect(dialog.get_by_text(re.compile("less than 20"))).to_have_count(0)
        dialog.get_by_role("button", name="Make it").click()
        piece = self.made(page)
        self.assertEqual([one["kind"] for one in piece["guides"]], ["path", "parallel"])
        self.assertEqual(piece["letterings"][0]["text"], "TAWNY PLUM")

    def test_a_blank_from_a_file(self) -> None:
        page, dialog = self.new_piece()
        dialog.get_by_text("Blank and guide of my own").click()
        dialog.get_by_label("A file with the blank’s outline").set_input_files(
            {"name": "plate.svg", "mimeType": "image/svg+xml", "buffer": SQUARE.encode()}
        )
        page.get_by_role("button", name="Take as the blank").click()
        expect(dialog.get_by_label("The blank", exact=True)).to_have_value("outline")
        dialog.get_by_label("The words follow").select_option("start arch")
        dialog.get_by_role("button", name="Make it").click()
        piece = self.made(page)
        self.assertEqual(
            (piece["blank"]["kind"], piece["blank"]["source"]), ("outline", "plate.svg")
        )

    def test_any_line_of_a_file_that_has_many(self) -> None:
        page, dialog = self.new_piece()
        dialog.get_by_text("Blank and guide of my own").click()
        dialog.get_by_label("Words", exact=True).fill("TAWNY PLUM")
        lines = "<path d='M0 0H200'/><path d='M0 50C40 20 80 20 120 50'/>"
        svg = f"<svg xmlns='http://www.w3.org/2000/svg' width='200mm' viewBox='0 0 200 100' height='100mm'>{lines}</svg>"  # noqa: E501
        with page.expect_file_chooser() as chooser:
            dialog.get_by_label("The words follow").select_option("file")
        chooser.value.set_files(
            {"name": "lines.svg", "mimeType": "image/svg+xml", "buffer": svg.encode()}
        )
        page.get_by_role("button", name="outline 2, edge 1").press("Enter")
        page.get_by_role("button", name="Take as a guide").click()
        expect(page.get_by_role("button", name="Take as a guide")).to_have_count(0)
        # What was typed before is still there.
        expect(dialog.get_by_label("Words", exact=True)).to_have_value("TAWNY PLUM")
        dialog.get_by_role("button", name="Make it").click()
        (guide,) = self.made(page)["guides"]
        self.assertEqual((guide["kind"], guide["source"]), ("path", "lines.svg"))
        self.assertIn("C", guide["d"])

    def test_new_words_are_typed_at_once(self) -> None:
        page, piece = self.opened(letterings=[])
        page.get_by_role("button", name="lettering on this guide").click()
        expect(page.get_by_role("textbox", name="Words", exact=True)).to_be_focused()
        page.keyboard.type("be 0 m1")
        page.keyboard.press("Enter")
        self.wait_until_kept(page)
        (lettering,) = self.stored(piece)["letterings"]
        self.assertEqual((lettering["text"], lettering["at_in"], lettering["spacing"]),
                         ("be 0 m1", "top", "font"))  # fmt: skip


class TheWholePiece(JobTest):
    def test_a_foot_wide_sheet_with_border_and_cut_edge_at_80_percent(self) -> None:
        """Chosen, opened, typed: three actions, and one undo."""
        words = {**document()["letterings"][0], "prepare": {"borders": [{"distance": 3}]}}
        sheet = {"kind": "rectangle", "width": 304.8, "height": 304.8}
        page, piece = self.opened(blank=sheet, edge="cut", letterings=[words])
        before = self.stored(piece)
        page.get_by_role("button", name=re.compile("^Rectangle 304.8")).click()
        page.get_by_text("Scale the whole piece").click()
        self.type(page, "Scale to", "80")
        expect(page.get_by_role("button", name=re.compile("^Rectangle 243.84"))).to_be_visible()
        self.wait_until_kept(page)
        after = self.stored(piece)
        self.assertEqual(after["blank"]["width"], 243.84)
        self.assertEqual(after["guides"][0]["diameter"], 192)
        self.assertEqual(after["letterings"][0]["height"], 14.4)
        self.assertEqual(after["letterings"][0]["prepare"]["borders"][0]["distance"], 2.4)
        groups = {group.id for group in self.exported(page)}
        self.assertLessEqual(
            {"cut-QUILLMERE-ORCHARD", "cut-QUILLMERE-ORCHARD-border", "cut-Edge-of-the-blank"},
            groups,
        )
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name=re.compile("^Rectangle 304.8"))).to_be_visible()
        self.assertEqual(self.stored(piece), before)

    def test_mirrored_and_turned_it_is_still_pulled_where_the_pointer_goes(self) -> None:
        page, piece = self.opened(guides=[{**document()["guides"][0], "diameter": 150}])
        page.get_by_role("button", name=re.compile("^Disc")).click()
        page.get_by_text("How the piece lies on the sheet").click()
        page.get_by_text("Mirrored, as seen from the back").click()
        page.get_by_role("button", name="Turn by 90°").click()
        page.get_by_role("button", name=re.compile("^Rim")).click()
        centre = page.locator("[data-grip=centre]")
        expect(centre).to_be_visible()
        self.wait_until_kept(page)
        start = centre.bounding_box()
        self.drag(page, centre, 60, 25)
        self.wait_until_kept(page)
        end = centre.bounding_box()
        assert start and end
        self.assertAlmostEqual(end["x"] - start["x"], 60, delta=2)
        self.assertAlmostEqual(end["y"] - start["y"], 25, delta=2)
        # Turned by a quarter and mirrored, right on the sheet is up in the piece.
        x, y = self.stored(piece)["guides"][0]["centre"]
        self.assertGreater(abs(y), abs(x))

    def test_in_inches(self) -> None:
        page, piece = self.opened()
        page.get_by_role("button", name=re.compile("^Disc")).click()
        page.get_by_text("fractions of an inch").click()
        self.type(page, "Diameter", "11 3/8")
        expect(page.get_by_role("button", name="Disc ⌀ 11 3/8 in")).to_be_visible()
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["blank"]["diameter"], 288.925)
        page.reload()
        expect(page.get_by_role("button", name="Disc ⌀ 11 3/8 in")).to_be_visible()


class ChangingOnesMind(JobTest):
    def two_guides(self) -> tuple[Page, str]:
        arch = {"id": "arch", "kind": "arch", "chord": 200, "rise": 40}
        return self.opened(guides=[document()["guides"][0], arch])

    def test_words_to_another_guide_by_field_and_by_dragging(self) -> None:
        page, piece = self.two_guides()
        page.get_by_label("On the guide").select_option(label="Arch")
        self.eventually(lambda: self.stored(piece)["letterings"][0]["guide"] == "arch")
        words = page.get_by_role("navigation").get_by_role("button", name="QUILLMERE ORCHARD")
        words.drag_to(page.get_by_role("button", name=re.compile("^Rim")))
        self.eventually(lambda: self.stored(piece)["letterings"][0]["guide"] == "rim")

    def test_copied_into_another_piece_named_and_put_first(self) -> None:
        page, _ = self.two_guides()
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.keyboard.press("Control+c")
        made = self.api("/api/pieces", "POST", {"piece": document(guides=[], letterings=[])})
        page.goto(f"{self.running.address}/pieces/{made['id']}")
        self.wait_until_kept(page)
        page.keyboard.press("Control+v")
        expect(page.locator("main [data-lettering] .letters path")).to_have_count(16)
        self.wait_until_kept(page)
        page.keyboard.press("Escape")
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.get_by_text("Name, start point").click()
        self.type(page, "Name, in lists and files", "Outer ring")
        expect(page.get_by_role("button", name=re.compile("^Outer ring"))).to_be_visible()
        page.get_by_role("button", name="Duplicate").click()
        second = page.get_by_role("button", name=re.compile("^Rim 2"))
        expect(second).to_be_visible()
        second.press("Alt+ArrowUp")
        self.eventually(
            lambda: (
                [one["id"] for one in self.stored(str(made["id"]))["guides"]] == ["rim-2", "rim"]
            )
        )

    def test_several_are_chosen_and_changed_as_one(self) -> None:
        page, piece = self.two_guides()
        page.get_by_role("button", name="lettering on this guide").last.click()
        words = page.get_by_role("textbox", name="Words")
        expect(words).to_have_value("Your words")
        words.fill("PEAR")
        self.wait_until_kept(page)
        entries = page.get_by_role("navigation", name="Contents").locator("button.lettering")
        entries.first.click()
        entries.last.click(modifiers=["Control"])
        aside = page.get_by_role("complementary")
        expect(aside).to_contain_text("2 letterings chosen")
        self.type(page, "Height", "9.5")
        self.wait_until_kept(page)
        aside.get_by_label("Gaps").select_option(label="all the same")

        def letterings() -> list[tuple[float, str, str, str]]:
            found = self.stored(piece)["letterings"]
            return [(one["height"], one["spacing"], one["guide"], one["text"]) for one in found]

        self.eventually(lambda: {one[:2] for one in letterings()} == {(9.5, "same")})
        # One undo takes back what was done to both.
        page.keyboard.press("Control+z")
        self.eventually(lambda: {one[1] for one in letterings()} == {"font"})
        # Pulled together, and dropped together on another guide.
        before = [one["at"] for one in self.stored(piece)["letterings"]]
        page.locator("main svg[role=application]").press("ArrowRight")
        self.wait_until_kept(page)
        after = [one["at"] for one in self.stored(piece)["letterings"]]
        self.assertTrue(all(a != b for a, b in zip(before, after, strict=True)), (before, after))
        entries.last.drag_to(page.get_by_role("button", name=re.compile("^Rim")))
        self.eventually(lambda: {one[2] for one in letterings()} == {"rim"})
        page.keyboard.press("Control+d")
        self.eventually(lambda: len(letterings()) == 4)
        expect(aside).to_contain_text("2 letterings chosen")
        page.keyboard.press("Control+a")
        expect(aside).to_contain_text("4 letterings chosen")
        page.keyboard.press("Delete")
        self.eventually(lambda: letterings() == [])

    def test_several_guides_are_pulled_as_one(self) -> None:
        inner = {"id": "inner", "kind": "parallel", "guide": "rim", "distance": 20}
        arch = {"id": "arch", "kind": "arch", "chord": 60, "rise": 10}
        page, piece = self.opened(guides=[document()["guides"][0], inner, arch], letterings=[])
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.get_by_role("button", name=re.compile("^Arch")).click(modifiers=["Shift"])
        expect(page.get_by_role("complementary")).to_contain_text("3 guides chosen")
        self.drag(page, page.locator("main path.reach[data-guide=arch]"), 30, 0)
        self.wait_until_kept(page)
        rim, within, bent = self.stored(piece)["guides"]
        self.assertGreater(rim["centre"][0], 10)
        self.assertEqual(rim["centre"], bent["centre"])
        # What is made from the ring has moved with it, and is as far from it as it was.
        self.assertEqual(within["distance"], 20)

    def test_undo_in_a_field_is_the_pieces_undo_and_the_focus_stays_near(self) -> None:
        page, piece = self.two_guides()
        field = page.get_by_label("Standoff", exact=True)
        field.fill("3")
        field.press("Enter")
        # “kept” is not said of a figure that is still on its way.
        self.wait_until_kept(page)
        self.assertEqual(self.stored(piece)["letterings"][0]["standoff"], 3)
        page.keyboard.press("Control+z")
        expect(field).to_have_value("0")
        # Taken back before it has been understood, and as quickly as keys are pressed.
        field.fill("4")
        field.press("Enter")
        steps: list[int] = []
        page.on(
            "response",
            lambda one: steps.append(one.status) if one.url.endswith(("/undo", "/redo")) else None,
        )
        for key in "zyzyz":
            page.keyboard.press(f"Control+{key}")
        # Asking the page lets what has come be heard.
        self.eventually(lambda: bool(page.title()) and len(steps) == 5)
        self.assertEqual(set(steps), {200})
        expect(field).to_have_value("0")
        self.assertEqual(self.stored(piece)["letterings"][0]["standoff"], 0)
        # What is typed and not yet set is the field's own.
        field.fill("7")
        page.keyboard.press("Escape")
        self.assertEqual(self.stored(piece)["letterings"][0]["standoff"], 0)
        page.get_by_role("button", name="Remove this lettering").click()
        expect(page.locator("main [data-lettering]")).to_have_count(0)
        self.assertNotEqual(page.evaluate("document.activeElement.tagName"), "BODY")

    def test_a_guide_is_copied_with_those_it_is_made_from(self) -> None:
        inner = {"id": "inner", "kind": "parallel", "guide": "rim", "distance": 20}
        page, piece = self.opened(guides=[document()["guides"][0], inner])
        page.get_by_role("button", name=re.compile("^Inner ·")).click()
        page.keyboard.press("Control+c")
        page.keyboard.press("Control+v")
        self.eventually(lambda: len(self.stored(piece)["guides"]) == 4)
        self.assertEqual(
            [(one["id"], one.get("guide")) for one in self.stored(piece)["guides"][2:]],
            [("rim-2", None), ("inner-2", "rim-2")],
        )

    def test_a_ring_becomes_an_oval_and_keeps_its_words(self) -> None:
        page, piece = self.two_guides()
        page.get_by_role("button", name=re.compile("^Rim")).click()
        page.get_by_label("It is").select_option(label="ellipse")
        expect(page.get_by_label("Width", exact=True)).to_have_value("240")
        self.wait_until_kept(page)
        stored = self.stored(piece)
        self.assertEqual((stored["guides"][0]["kind"], stored["letterings"][0]["guide"]),
                         ("ellipse", "rim"))  # fmt: skip


if __name__ == "__main__":
    unittest.main()
