"""Names by hand: a list pasted, rows that do not fit mended, one changed by itself, taken away."""

from __future__ import annotations

import io
import re
import time
import unittest
import urllib.request
import zipfile
from contextlib import suppress

from playwright.sync_api import Error, Locator, Page, Route, expect

from tests.browser.application import LetteringTest

TAG = {"kind": "tag", "width": 90, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8}
LINE = {"id": "line", "kind": "line", "length": 62, "centre": [6, -3]}
WORDS = {"id": "name", "guide": "line", "text": "{name}", "face": "lato-bold", "height": 8,
         "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even"}  # fmt: skip
LONG = ["Old Ribbed Russet of Quillmere Mere", "A Very Long Perry Pear Indeed"]


class Names(LetteringTest):
    def pattern(self) -> tuple[Page, str]:
        page, piece = self.opened(title="Tree tag", blank=TAG, guides=[LINE], letterings=[WORDS])
        page.get_by_role("link", name="Names", exact=True).click()
        expect(page.get_by_role("heading", name="Names", exact=True)).to_be_visible()
        return page, piece

    def paste(self, page: Page, names: list[str]) -> None:
        page.get_by_label("Rows, typed or pasted from a sheet").fill("\n".join(names))
        page.get_by_role("button", name="add these rows").click()

    def cells(self, page: Page) -> Locator:
        return page.locator("main .cell")

    def said(self, page: Page) -> Locator:
        return page.get_by_role("complementary", name="List").locator("p").first

    def test_forty_names_of_which_two_do_not_fit(self) -> None:
        page, piece = self.pattern()
        forty = [f"Tree {number}" for number in range(1, 39)]
        self.paste(page, [*forty[:20], *LONG, *forty[20:]])
        expect(self.said(page)).to_have_text(re.compile("40 rows · 2 do not fit"), timeout=90_000)
        # They come first, with the reason.
        for place in range(2):
            expect(self.cells(page).nth(place)).to_contain_text("do not fit")
        expect(self.cells(page).nth(2)).to_contain_text("Tree 1")
        # Smaller letters mend both at once, and that is undone as one thing.
        self.cells(page).first.click()
        page.get_by_role("button", name="smaller letters in all 2 alike").click()
        expect(self.said(page)).to_have_text(re.compile("40 rows · all fit"))
        page.get_by_role("button", name="Undo").click()
        expect(self.said(page)).to_have_text(re.compile("40 rows · 2 do not fit"))
        # Found by what they say.
        page.get_by_role("searchbox", name="Find rows").fill("perry")
        expect(self.cells(page)).to_have_count(1)
        page.get_by_role("searchbox", name="Find rows").fill("")
        # A row of its own height fits, and stays so while others change.
        self.cells(page).first.click()
        field = page.get_by_role("textbox", name=re.compile("^Height of"))
        field.fill("2.2")
        field.press("Enter")
        expect(self.said(page)).to_have_text(re.compile("1 do not fit"), timeout=90_000)
        self.cells(page).first.click()
        words = page.get_by_role("textbox", name="{name}", exact=True)
        words.fill("Perry Pear")
        words.press("Tab")
        expect(self.said(page)).to_have_text(re.compile("40 rows · all fit"), timeout=90_000)
        self.eventually(lambda: any(row["heights"] for row in self.stored(piece)["names"]["rows"]))
        # Made while the page is closed; the shelf knows of it, and gives what was made.
        page.get_by_role("button", name="Make 40 rows").click()
        expect(page.get_by_role("list", name="Batches")).to_contain_text("of 40 rows made")
        page.close()
        page = self.open("/")
        batches = page.get_by_role("region", name="Made by workers")
        page.wait_for_timeout(500)
        expect(batches.get_by_role("button", name=re.compile("^Show what was made"))).to_be_visible(
            timeout=120_000
        )
        batches.get_by_role("button", name=re.compile("^Show what was made")).click()
        expect(batches).to_contain_text("40 of 40 rows made")
        files = self.taken(page, batches)
        self.assertEqual((len(files), files[0]), (40, "001-Tree-1.svg"))
        # On sheets: the rows are nested, and nothing but the sheets is taken away.
        batches.get_by_role("link", name="Tree tag").click()
        page.get_by_text("nested on sheets").click()
        page.get_by_role("button", name="Make 40 rows").click()
        made = page.get_by_role("list", name="Batches").get_by_role("listitem").first
        expect(made).to_contain_text(
            re.compile(r"40 of 40 rows made · \d sheets? \("), timeout=120_000
        )
        files = self.taken(page, made)
        self.assertEqual((files[0], files[-1]), ("sheet-001.svg", "cutting-list.pdf"))
        made.get_by_role("button", name="clear away").click()
        expect(page.get_by_role("list", name="Batches").get_by_role("listitem")).to_have_count(1)

    def taken(self, page: Page, where: Locator) -> list[str]:
        """The names of the files that a batch gives."""
        with page.expect_download() as taken:
            where.get_by_role("link", name="take the ZIP").click()
        with zipfile.ZipFile(io.BytesIO(taken.value.path().read_bytes())) as package:
            return package.namelist()

    def test_a_list_is_undone_as_everything_and_there_when_the_page_comes_back(self) -> None:
        page, piece = self.pattern()
        self.paste(page, ["name", "Ann", "Bea", "", "Ann"])
        expect(self.said(page)).to_have_text(re.compile("3 rows · all fit.*1 twice.*1 empty"))
        self.eventually(lambda: len((self.stored(piece)["names"] or {"rows": []})["rows"]) == 4)
        page.reload()
        expect(self.cells(page)).to_have_count(3)
        page.get_by_role("button", name="Undo").click()
        self.eventually(lambda: self.stored(piece)["names"] is None)

    def test_layout_shows_the_words_of_a_row_and_the_piece_keeps_its_fields(self) -> None:
        page, piece = self.pattern()
        self.paste(page, ["Ann", "Eleanor"])
        expect(self.said(page)).to_have_text(re.compile("2 rows · all fit"))
        page.get_by_role("link", name="Layout", exact=True).click()
        letters = page.locator("main [data-lettering=name] .letters path")
        expect(letters).to_have_count(6)
        page.get_by_role("button", name="fields", exact=True).click()
        expect(letters).to_have_count(3)
        page.get_by_role("button", name="With the next row").click()
        expect(page.get_by_role("button", name="row 2: Eleanor")).to_be_visible()
        expect(letters).to_have_count(7)
        # What is done to the piece is done to the pattern.
        page.get_by_role("button", name="With the next row").click()
        expect(letters).to_have_count(6)
        self.assertEqual(self.stored(piece)["letterings"][0]["text"], "{name}")

    def test_a_letter_is_nudged_in_one_row_alone_and_put_back_there(self) -> None:
        page, piece = self.pattern()
        self.paste(page, ["Ann", "Eleanor"])
        expect(self.said(page)).to_have_text(re.compile("2 rows · all fit"))
        self.cells(page).nth(1).click()
        page.get_by_role("button", name="change its letters by hand…").click()
        expect(page.get_by_role("button", name="row 2: Eleanor")).to_be_visible()
        page.locator("section [data-lettering=name] .letters path").nth(2).click()
        for _ in range(3):
            page.keyboard.press("Shift+ArrowUp")
        side = page.get_by_role("complementary", name="Particulars")
        expect(side).to_contain_text("Letter e by hand, in row 2 alone")
        expect(side.get_by_label("Moved up")).to_have_value("3")
        self.eventually(lambda: self.stored(piece)["names"]["rows"][1]["hand"] != {})
        stored = self.stored(piece)
        (nudge,) = stored["names"]["rows"][1]["hand"]["name"]["letters"]
        self.assertEqual((nudge["letter"], nudge["across"]), (2, 3.0))
        self.assertEqual((stored["letterings"][0]["hand"], stored["names"]["rows"][0]["hand"]),
                         ([], {}))  # fmt: skip
        page.get_by_role("link", name="Names", exact=True).click()
        self.cells(page).nth(1).click()
        expect(side).to_contain_text("A letter of {name} changed by hand in this row")
        side.get_by_role("button", name="put back").click()
        self.eventually(lambda: self.stored(piece)["names"]["rows"][1]["hand"] == {})
        page.get_by_role("button", name="Undo").click()
        self.eventually(lambda: self.stored(piece)["names"]["rows"][1]["hand"] != {})

    def test_a_long_list_is_changed_found_in_and_there_when_the_page_comes_back(self) -> None:
        """Fifty thousand rows go the same way; a changed one keeps one leaf of them."""
        page, piece = self.pattern()
        expect(self.said(page)).to_contain_text("Each row of a list fills {name}")
        rows = "name\n" + "\n".join(f"Tree {number}" for number in range(1, 1601))
        file = {"name": "trees.csv", "mimeType": "text/csv", "buffer": rows.encode()}
        page.get_by_label("from a file…").set_input_files([file])
        expect(self.said(page)).to_have_text(re.compile("^1600 rows"))
        expect(self.cells(page).first.locator(".ink")).to_be_attached()
        self.eventually(lambda: self.stored(piece)["names"] is not None)
        leaves = self.stored(piece)["names"]["rows"]
        self.assertEqual([one["count"] for one in leaves], [400] * 4)
        page.get_by_role("searchbox", name="Find rows").fill("Tree 700")
        self.cells(page).first.click()
        words = page.get_by_role("textbox", name="{name}", exact=True)
        words.fill("Perry Pear")
        words.press("Tab")
        self.eventually(lambda: self.stored(piece)["names"]["rows"] != leaves)
        after = self.stored(piece)["names"]["rows"]
        self.assertEqual([one == was for one, was in zip(after, leaves, strict=True)],
                         [True, False, True, True])  # fmt: skip
        # A second change is on top of the first, which the page has been told the leaf of.
        words.fill("Perry Pears")
        words.press("Tab")
        self.eventually(lambda: self.stored(piece)["names"]["rows"] not in (leaves, after))
        page.reload()
        page.get_by_role("searchbox", name="Find rows").fill("perry")
        expect(self.cells(page)).to_have_text(re.compile("^\\s*700 Perry Pears"))
        page.get_by_role("button", name="Undo").click()
        expect(self.cells(page)).to_have_text(re.compile("^\\s*700 Perry Pear\\b"))
        # Layout shows the words of a row of it.
        page.get_by_role("link", name="Layout", exact=True).click()
        page.get_by_label("With the row before").click()
        expect(page.get_by_role("button", name="row 1600: Tree 1600")).to_be_visible()

    def test_columns_are_matched_and_rows_sorted_by_hand(self) -> None:
        page, piece = self.opened(
            title="Tag", blank=TAG, guides=[LINE],
            letterings=[{**WORDS, "text": "{name} {year}"}],
        )  # fmt: skip
        page.get_by_role("link", name="Names", exact=True).click()
        self.paste(page, ["1998\tPippin", "2001\tÉva", "975\tCox"])
        expect(self.said(page)).to_have_text(re.compile("3 rows · all fit"))
        page.get_by_label("Column 1", exact=True).select_option("year")
        expect(page.get_by_label("Column 2", exact=True)).to_have_value("name")

        def kept(what: str) -> list[str]:
            names = self.stored(piece)["names"] or {"head": [], "rows": []}
            return names["head"] if what == "head" else [one["cells"][1] for one in names["rows"]]

        self.eventually(lambda: kept("head") == ["year", "name"])
        page.get_by_role("button", name="sort by {name}").click()
        self.eventually(lambda: kept("rows") == ["Cox", "Éva", "Pippin"])
        page.get_by_role("button", name="sort by {year}").click()
        self.eventually(lambda: kept("rows") == ["Cox", "Pippin", "Éva"])
        expect(self.cells(page).first).to_contain_text("Cox")

    def test_a_file_that_takes_long_is_made_while_the_page_may_be_closed(self) -> None:
        """The network is slow here; the worker that makes the file then is a real one."""
        page, piece = self.opened(title="One tag", blank=TAG, guides=[LINE], letterings=[WORDS])

        def slow(route: Route) -> None:
            time.sleep(2.5)
            with suppress(Error):  # the page gave up by then
                route.continue_()

        page.route("**/solid/3mf", slow)
        page.get_by_role("button", name="Export a file").click()
        with page.expect_download(timeout=90_000) as download:
            page.get_by_role("menuitem", name="3MF, for printing, the part").click()
            expect(page.get_by_text("It comes when it is made")).to_be_visible()
        self.assertEqual(download.value.suggested_filename, "One tag.3mf")
        address = f"{self.running.address}/api/pieces/{piece}/solid/3mf"
        with urllib.request.urlopen(address) as answer:
            self.assertEqual(download.value.path().read_bytes(), answer.read())
        expect(page.get_by_text("It comes when it is made")).to_be_hidden()
        page.get_by_role("link", name="to the shelf").click()
        page.get_by_role("button", name=re.compile("Show what was made")).click()
        batches = page.get_by_role("list", name="Batches")
        expect(batches.get_by_text("3MF, as the piece stands")).to_be_visible()
        with page.expect_download() as download:
            batches.get_by_role("link", name="take the file").first.click()
        self.assertEqual(download.value.suggested_filename, "One tag.3mf")

    def test_a_field_without_a_column_says_which(self) -> None:
        page, _ = self.opened(
            title="Tag", blank=TAG, guides=[LINE],
            letterings=[{**WORDS, "text": "{name} of {town}"}],
        )  # fmt: skip
        page.get_by_role("link", name="Names", exact=True).click()
        self.paste(page, ["name", "Ann"])
        expect(page.get_by_text("no column is for {town}")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
