"""Thread over the wire: what the page rehearses, columns set by hand, files sewn and read."""

from __future__ import annotations

import os
import signal
import unittest
from typing import Any

import psycopg

from tests.makings import document
from tests.throwaway import database_url
from tests.web.served import WebTest


class Stitches(WebTest):
    def piece(self, **sewing: Any) -> dict[str, Any]:
        line = {"id": "l", "kind": "line", "length": 120}
        words = {"id": "t", "guide": "l", "text": "HOH", "face": "lato-bold", "height": 14}
        own = {"sewing": sewing} if sewing else {}
        return document(guides=[line], letterings=[words], blank=None, **own)

    def asked(self, path: str, **body: Any) -> Any:
        answer = self.client.post(path, json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_a_scene_has_every_stitch_and_what_it_comes_to(self) -> None:
        scene = self.asked("/api/stitches", piece=self.piece())
        self.assertFalse(scene["own"])
        count = sum(len(one["points"]) // 2 for one in scene["threads"])
        self.assertEqual(count, scene["stitches"])
        for one in scene["threads"]:
            self.assertEqual(len(one["what"]), len(one["points"]) // 2)
            self.assertLessEqual(max(one["points"][1::2]), 0.5)
        begins = [one["begins"] for one in scene["threads"]]
        self.assertEqual(begins, sorted(begins))
        slower = self.asked("/api/stitches", piece=self.piece(speed=350))
        self.assertGreater(slower["seconds"], 1.5 * scene["seconds"])

    def test_letters_are_kept_for_every_process_and_every_piece(self) -> None:
        def kept() -> int:
            with psycopg.connect(database_url()) as connection:
                found = connection.execute("SELECT count(*) FROM kept_letter").fetchone()
            return found[0] if found else 0

        piece = self.piece()
        piece["letterings"][0]["height"] = 13.7  # as high as no other test has them
        first = self.asked("/api/stitches", piece=piece)
        some = kept()
        self.assertGreaterEqual(some, 2)
        for worker in self.app.state.hands.crew.workers:
            if worker.pid:
                os.kill(worker.pid, signal.SIGKILL)
        other = piece | {"title": "Another piece"}
        self.assertEqual(self.asked("/api/stitches", piece=other)["threads"], first["threads"])
        self.assertEqual(kept(), some)

    def test_a_hoop_is_laid_and_one_that_is_too_small_says_so(self) -> None:
        scene = self.asked("/api/stitches", piece=self.piece(hoop={"width": 60, "height": 60}))
        (hoop,) = scene["hoopings"]
        self.assertAlmostEqual(hoop["box"][2] - hoop["box"][0], 60.0)
        tiny = self.piece(hoop={"width": 20, "height": 20})
        tiny["letterings"][0]["height"] = 40
        scene = self.asked("/api/stitches", piece=tiny)
        self.assertEqual(scene["hoopings"], [])
        self.assertIn("the hoop holds 20 × 20 mm", scene["too_large"])

    def test_a_column_is_pulled_where_it_is_seen(self) -> None:
        piece = self.piece()
        seen = self.asked("/api/stitches/columns", piece=piece, lettering="t", place=0)
        (x, y), _ = seen["columns"][0][0]
        sewing = self.asked(
            "/api/stitches/by-hand", piece=piece, lettering="t", place=0, does="pull",
            column=0, line=0, side=0, at=[x, y + (0.8 if y < -7 else -0.8)],
        )  # fmt: skip
        after = self.asked(
            "/api/stitches/columns", piece=piece | {"sewing": sewing}, lettering="t", place=2
        )
        self.assertTrue(after["by_hand"])
        moved = after["columns"][0][0][0][1] - y
        self.assertAlmostEqual(abs(moved), 0.8, places=6)
        wrong = self.client.post(
            "/api/stitches/columns", json={"piece": piece, "lettering": "t", "place": 7}
        )
        self.assertEqual(wrong.status_code, 422)

    def test_the_stitcher_sews_what_was_meant_and_a_file_is_read(self) -> None:
        out = self.asked("/api/thread/sewn", piece=self.piece(), breaks_at=100)
        self.assertEqual((out["state"], out["wrong"], out["went_back"]), ("done", [], True))
        self.assertLess(out["off"], 0.11)
        narrow = self.asked(
            "/api/thread/sewn", piece=self.piece(hoop={"width": 30, "height": 30}), hooping=0
        )
        self.assertEqual(narrow["state"], "refused")
        one = self.asked(
            "/api/thread/sewn", piece=self.piece(hoop={"width": 30, "height": 40}), hooping=1
        )
        self.assertEqual(one["state"], "done")
        piece = self.client.post("/api/pieces", json={"piece": self.piece()}).json()["id"]
        file = self.client.get(f"/api/pieces/{piece}/thread/pes").content
        answer = self.client.post("/api/thread/read?format=pes", content=file)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertGreater(answer.json()["stitches"], 500)
        wrong = self.client.post("/api/thread/read?format=pes", content=b"no stitches")
        self.assertEqual(wrong.status_code, 422)


if __name__ == "__main__":
    unittest.main()
