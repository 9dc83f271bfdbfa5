"""The shelf: making, finding, renaming, deleting and opening pieces."""

from __future__ import annotations

import re
import unittest

from playwright.sync_api import Page, Route, expect

from tests.browser.application import ApplicationTest


class Shelf(ApplicationTest):
    def more(self, page: Page, title: str, what: str) -> None:
        page.get_by_role("button", name=f"More for {title}", exact=True).click()
        page.get_by_role("menuitem", name=what).click()

    def card(self, page: Page, title: str):
        return page.get_by_role("link", name=re.compile(rf"{title}$"))

    def test_shows_true_pictures_and_opens_a_piece(self) -> None:
        page = self.open()
        picture = page.get_by_role("img", name="Picture of Barrel head", exact=True)
        expect(picture).to_be_visible()
        self.assertGreater(
            picture.evaluate("image => image.decode().then(() => image.naturalWidth)"), 100
        )
        self.card(page, "Barrel head").first.click()
        expect(page).to_have_url(re.compile("/pieces/"))
        page.get_by_role("link", name="Ulvent, to the shelf").click()
        expect(page.get_by_role("heading", name="Shelf")).to_be_visible()

    def test_renaming_duplicating_deleting_and_bringing_back(self) -> None:
        page = self.open()
        self.more(page, "Beehive plaque", "Duplicate")
        expect(self.card(page, "Beehive plaque copy")).to_be_visible()
        self.more(page, "Beehive plaque copy", "Rename")
        page.get_by_label("Name of the piece").fill("Hive lid")
        page.get_by_role("dialog").get_by_role("button", name="Rename").click()
        expect(self.card(page, "Hive lid")).to_be_visible()
        self.more(page, "Hive lid", "Delete")
        expect(self.card(page, "Hive lid")).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(self.card(page, "Hive lid")).to_be_visible()
        self.more(page, "Hive lid", "Delete")
        page.get_by_role("button", name=re.compile("Show deleted")).click()
        page.get_by_role("listitem").filter(has_text="Hive lid").get_by_role("button").click()
        expect(self.card(page, "Hive lid")).to_be_visible()

    def test_a_piece_file_goes_out_and_comes_back_in(self) -> None:
        page = self.open()
        with page.expect_download() as download:
            self.more(page, "Brass tree tag", "Download piece file")
        page.get_by_label("Piece file").set_input_files(download.value.path())
        expect(page.get_by_role("textbox", name="Words")).to_have_value("Old Ribbed Russet")

    def test_a_file_that_is_no_piece_is_refused_with_its_place(self) -> None:
        page = self.open()
        wrong = {"name": "x.json", "mimeType": "application/json", "buffer": b'{"ulvent": 1,'}
        page.get_by_label("Piece file").set_input_files(files=[wrong])
        expect(page.get_by_text(re.compile("x.json was not opened.*line 1"))).to_be_visible()

    def test_a_shelf_that_comes_late_does_not_wipe_off_what_was_refused(self) -> None:
        page = self.page()
        waiting: list[Route] = []

        def hold_back(route: Route) -> None:
            waiting.append(route)

        page.route("**/api/pieces?deleted=false", hold_back)
        self.open("/", page)
        wrong = {"name": "x.json", "mimeType": "application/json", "buffer": b"{"}
        page.get_by_label("Piece file").set_input_files(files=[wrong])
        expect(page.get_by_text(re.compile("x.json was not opened"))).to_be_visible()
        waiting.pop().continue_()
        expect(self.card(page, "Brass tree tag").first).to_be_visible()
        expect(page.get_by_text(re.compile("x.json was not opened"))).to_be_visible()

    def test_an_empty_shelf_says_how_to_begin(self) -> None:
        page = self.page()
        page.route("**/api/pieces?*", lambda route: route.fulfill(json=[]))
        self.open("/", page)
        expect(page.get_by_text("Nothing on the shelf yet.")).to_be_visible()

    def test_a_server_that_does_not_answer_is_said(self) -> None:
        page = self.page()
        page.route("**/api/pieces?*", lambda route: route.abort())
        self.open("/", page)
        expect(page.get_by_text("Ulvent does not answer").first).to_be_visible()
        page.unroute("**/api/pieces?*")
        page.get_by_role("button", name="Try again").click()
        expect(self.card(page, "Brass tree tag").first).to_be_visible()


if __name__ == "__main__":
    unittest.main()
