"""Runs sent to the simulated machines: a fault in the middle, taken up again, and looked at."""

from __future__ import annotations

import json
import re
import unittest
import urllib.request
from typing import Any

from playwright.sync_api import Locator, Page, expect

from tests.browser.test_run import RunTest

SECONDS = 60_000


class SendingTest(RunTest):
    def sending(self, title: str, machine: str) -> tuple[Page, Locator]:
        page, self.piece = self.run_of(title)
        self.sheet(page).get_by_role("button", name="Send to a machine").click()
        pane = page.get_by_role("complementary", name="Sending")
        pane.get_by_label("Machine", exact=True).select_option(machine)
        expect(pane.get_by_text("lay a fresh sheet")).to_be_visible()
        pane.get_by_text("lay a fresh sheet").click()
        expect(pane).to_contain_text("Nothing was done yet")
        return page, pane

    def came_out(self, page: Page, machine: str) -> dict[str, Any]:
        address = f"{page.url.split('/pieces')[0]}/api/machines/{machine}/came-out"
        with urllib.request.urlopen(address) as answer:
            found: dict[str, Any] = json.load(answer)
        return found


class Sent(SendingTest):
    def test_a_fault_in_the_middle_is_taken_up_again_on_each_machine(self) -> None:
        for machine, fault in (("simulated-beam", "power lost"), ("simulated-plotter", "garbled")):
            page, pane = self.sending("Gate name, one piece", machine)
            pane.get_by_label("After instructions").fill("14")
            page.keyboard.press("Enter")
            pane.get_by_label("Let it fail, once").select_option(fault)
            pane.get_by_role("button", name="Send", exact=True).click()
            expect(pane.get_by_role("heading", name="It failed")).to_be_visible(timeout=SECONDS)
            expect(pane.get_by_role("alert")).not_to_be_empty()
            # A reload changes nothing: what was sent is known.
            page.reload()
            self.sheet(page).get_by_role("button", name="Send to a machine").click()
            job = page.get_by_role("region", name="Job")
            expect(job).to_contain_text("it is not known whether it was done")
            job.get_by_role("button", name=re.compile("again, and on$")).click()
            expect(job).to_contain_text("All of it is done", timeout=SECONDS)
            seen = page.get_by_role("region", name="What came out")
            expect(seen).to_contain_text("11 were meant", timeout=SECONDS)
            if fault == "power lost":
                self.assertLess(self.came_out(page, machine)["apart"], 0.1)
            else:  # what was mistaken is on the sheet, and is seen to be wrong
                self.assertGreater(self.came_out(page, machine)["apart"], 1.0)

    def test_held_gone_on_with_and_stopped(self) -> None:
        page, pane = self.sending("Gate name, one piece", "simulated-beam")
        pane.get_by_role("button", name="Send", exact=True).click()
        job = page.get_by_role("region", name="Job")
        job.get_by_role("button", name="Hold").click()
        expect(job).to_contain_text("Held: it stands still", timeout=SECONDS)
        # The rehearsal shows how far it has come.
        expect(
            page.get_by_role("img", name=re.compile(r": [1-9]\d* of 11 lines done"))
        ).to_be_visible()
        job.get_by_role("button", name="Go on").click()
        expect(job.get_by_role("button", name="Hold")).to_be_visible()
        job.get_by_role("button", name="Stop").click()
        expect(job).to_contain_text("Stopped", timeout=SECONDS)
        expect(job.get_by_role("button", name=re.compile("^Go on from line"))).to_be_visible()

    def test_a_machine_of_ones_own_is_kept_and_must_be_allowed(self) -> None:
        _, pane = self.sending("Gate name, one piece", "simulated-beam")
        pane.get_by_role("button", name="machines…").click()
        pane.get_by_role("button", name="Add a machine").click()
        pane.get_by_label("Name").fill("Shed plotter")
        pane.get_by_label("Address").fill("nowhere")
        pane.get_by_role("button", name="Keep").click()
        expect(pane).to_contain_text("must be a host and a port")
        pane.get_by_label("Address").fill("192.0.2.7:9100")
        pane.get_by_label("Address").press("Tab")
        pane.get_by_role("button", name="Keep").click()
        expect(pane).to_contain_text("192.0.2.7:9100 · may not be reached")
        pane.get_by_role("button", name="back to sending").click()
        pane.get_by_label("Machine", exact=True).select_option(label="Shed plotter")
        expect(pane).to_contain_text("--machine 192.0.2.7:9100")
        expect(pane.get_by_role("button", name="Send", exact=True)).to_be_disabled()


class ByHand(RunTest):
    def test_a_tab_is_set_pulled_and_taken_away_on_the_drawing(self) -> None:
        page, piece = self.run_of("Gate name, one piece")
        self.passes(page).first.get_by_role("button").first.click()
        page.get_by_role("radio", name="tabs").check(force=True)
        drawing = page.get_by_role("img", name=re.compile("^The run at"))
        box = drawing.bounding_box()
        assert box
        # The bar below the name, in the middle.
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2 + 43
        page.mouse.click(x, y)
        self.eventually(lambda: (self.stored(piece)["run"]["passes"][0]["tabs"] or {}).get("at"))
        expect(page.locator("rect.handle")).to_have_count(1)
        (first,) = self.stored(piece)["run"]["passes"][0]["tabs"]["at"]
        handle = page.locator("rect.handle").bounding_box()
        assert handle
        page.mouse.move(handle["x"] + 6, handle["y"] + 6)
        page.mouse.down()
        page.mouse.move(handle["x"] + 46, handle["y"] + 8, steps=4)
        page.mouse.up()
        self.eventually(
            lambda: self.stored(piece)["run"]["passes"][0]["tabs"]["at"][0][0] > first[0] + 10
        )
        handle = page.locator("rect.handle").bounding_box()
        assert handle
        page.mouse.click(handle["x"] + 6, handle["y"] + 6)
        self.eventually(lambda: not self.stored(piece)["run"]["passes"][0]["tabs"]["at"])


if __name__ == "__main__":
    unittest.main()
