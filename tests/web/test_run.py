"""Runs over the wire: what the page rehearses, and files for machines."""

from __future__ import annotations

import unittest
from typing import Any

from tests.makings import document
from tests.web.served import WebTest

PASSES = [
    {"id": "draw", "tool": "pen", "works": [{"what": "letters", "of": "name"}]},
    {"id": "cut", "tool": "blade", "works": [{"what": "edge"}], "held": True},
]
DISC = {"kind": "disc", "diameter": 300}


class Runs(WebTest):
    def scene(self, **piece: Any) -> Any:
        answer = self.client.post("/api/run", json={"piece": document(blank=DISC, **piece)})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_a_piece_that_says_nothing_has_the_plain_run(self) -> None:
        scene = self.scene(edge="cut")
        self.assertFalse(scene["own"])
        (cut,) = scene["passes"]
        self.assertEqual((cut["title"], cut["tool"], cut["letter"]), ("Cut", "beam", "B"))
        self.assertAlmostEqual(scene["seconds"], cut["seconds"])
        # The blank's edge is the last line, and the tool is up between lines.
        self.assertEqual(cut["lines"][-1]["name"], "Edge of the blank")
        ends = [track["down"] + track["points"][-1] for track in cut["tracks"]]
        begins = [track["down"] for track in cut["tracks"]]
        self.assertTrue(all(end < begin for end, begin in zip(ends[:-1], begins[1:], strict=True)))
        self.assertLessEqual(ends[-1], scene["seconds"] + 0.001)
        # The zero is at the blank's lower left corner, and y points down.
        for x, y in zip(
            cut["tracks"][0]["points"][::3], cut["tracks"][0]["points"][1::3], strict=True
        ):
            self.assertTrue(0.0 <= x <= 300.0 and -300.0 <= y <= 0.0)

    def test_passes_that_are_held_back_do_nothing(self) -> None:
        scene = self.scene(edge="cut", run={"passes": PASSES})
        draw, cut = scene["passes"]
        self.assertTrue(draw["runs"] and draw["tracks"])
        self.assertFalse(cut["runs"] or cut["tracks"])
        self.assertEqual(scene["seconds"], draw["seconds"])

    def test_one_choice_draws_then_cuts(self) -> None:
        scene = self.scene(edge="cut")
        choice = next(one for one in scene["choices"] if one["name"] == "draw-cut")
        chosen = self.scene(edge="cut", run=choice["sheet"])
        self.assertEqual([one["tool"] for one in chosen["passes"]], ["pen", "beam"])
        self.assertEqual(len(chosen["passes"][1]["tracks"]), 1)

    def test_a_carving_pass_shows_what_it_leaves_of_the_surface(self) -> None:
        groove = {"id": "v", "tool": "v-bit", "works": [{"what": "letters", "of": "name"}]}
        (carved,) = self.scene(run={"passes": [groove]})["passes"]
        strips = [track["relief"] for track in carved["tracks"]]
        self.assertTrue(all(strip and len(strip) % 9 == 0 for strip in strips))
        self.assertTrue(all(0.0 <= light <= 1.0 for strip in strips for light in strip[8::9]))
        (cut,) = self.scene(edge="cut")["passes"]
        self.assertEqual([track["relief"] for track in cut["tracks"] if track["relief"]], [])

    def test_what_is_not_there_is_named_by_its_field(self) -> None:
        wrong = [{"id": "a", "tool": "pen", "works": [{"what": "letters", "of": "nobody"}]}]
        cases: list[tuple[dict[str, Any], str]] = [
            ({"passes": wrong}, "run.passes[0].works[0].of"),
            ({"passes": [PASSES[0], PASSES[0]]}, "run.passes[1].id"),
            ({"passes": [PASSES[0] | {"works": []}]}, "run.passes[0].works"),
            ({"passes": [PASSES[0] | {"works": [{"what": "edge", "of": "x"}]}]},
             "run.passes[0].works[0].of"),
            ({"passes": [PASSES[0] | {"depth": 9, "step": 0.01}]}, "run.passes[0].step"),
            ({"passes": [PASSES[0] | {"tool": "beam-fill", "filling": {"pitch": 0.0001}}]},
             "run.passes[0].filling.pitch"),
        ]  # fmt: skip
        for run, field in cases:
            with self.subTest(field):
                answer = self.client.post("/api/run", json={"piece": document(blank=DISC, run=run)})
                self.assert_problem(answer, 422, field)

    def test_files_of_a_run_and_of_one_pass(self) -> None:
        piece = document(blank=DISC, edge="cut", title="Lid", run={"passes": [PASSES[0]]})
        made = self.client.post("/api/pieces", json={"piece": piece}).json()
        for format, begins in (
            ("plt", b"IN;"),
            ("gcode", b"G21"),
            ("pdf", b"%PDF"),
            ("png", b"\x89PNG"),
        ):
            answer = self.client.get(f"/api/pieces/{made['id']}/run/{format}")
            self.assertEqual(answer.status_code, 200)
            self.assertTrue(answer.content.startswith(begins))
            self.assertIn(f'filename="Lid.{format}"', answer.headers["Content-Disposition"])
        whole = self.client.get(f"/api/pieces/{made['id']}/run/gcode").content
        one = self.client.get(f"/api/pieces/{made['id']}/run/gcode?pass=draw").content
        self.assertEqual(whole, one)
        self.assert_problem(
            self.client.get(f"/api/pieces/{made['id']}/run/gcode?pass=7"), 422, "pass"
        )


if __name__ == "__main__":
    unittest.main()


class Threads(WebTest):
    def test_a_piece_is_taken_away_as_a_stitch_file(self) -> None:
        piece = self.created()
        answer = self.client.get(f"/api/pieces/{piece['id']}/thread/dst")
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(answer.content[:3], b"LA:")
        self.assertIn(".dst", answer.headers["content-disposition"])
        self.assert_problem(self.client.get(f"/api/pieces/{piece['id']}/thread/xyz"), 422)


class Tables(WebTest):
    def test_words_of_a_table_row_by_row(self) -> None:
        answer = self.client.post("/api/words", content="Bramley;1809\nRibston;é\n".encode())
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(answer.json()["rows"], [["Bramley", "1809"], ["Ribston", "é"]])
        self.assert_problem(self.client.post("/api/words", content=b'"open'), 422, "file")
