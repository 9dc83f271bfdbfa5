"""Routes for outlines from files, the drawer, and guides on the live channel."""

from __future__ import annotations

import math
import unittest

from tests import zoo
from tests.formats import samples
from tests.makings import document
from tests.web.served import LIVE, WebTest, answered
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.recipe import parse_guide, parse_piece


class Outlines(WebTest):
    def shown(self, format: str, data: bytes, unit: str = "file") -> dict:
        answer = self.client.post(f"/api/outlines/{format}?unit={unit}", content=data)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_four_neighbouring_edges_become_a_guide_of_their_length(self) -> None:
        (outline,) = self.shown("svg", samples.ROUNDED)["outlines"]
        self.assertAlmostEqual(outline["length"], 2 * 44 + 2 * 24 + 16 * math.pi, places=3)
        edges = [edge["data"] for edge in outline["edges"][:4]]
        body = {"id": "edge", "edges": edges, "source": "lid.svg"}
        guide = self.client.post("/api/outlines/take/guide", json=body).json()
        curve = guide_curves((parse_guide(guide),))["edge"]
        self.assertFalse(curve.closed)
        self.assertAlmostEqual(curve.length, outline["length"] / 2, places=3)

    def test_a_guide_lies_where_the_file_has_it_about_the_files_middle(self) -> None:
        for format, data in (("svg", samples.EVERYTHING), ("dxf", samples.dxf()[0])):
            shown = self.shown(format, data)
            x0, y0, x1, y1 = shown["bounds"]
            self.assertAlmostEqual(x0 + x1, 0, places=6)
            self.assertAlmostEqual(y0 + y1, 0, places=6)
            boxes = []
            for index, outline in enumerate(shown["outlines"]):
                edges = [edge["data"] for edge in outline["edges"]]
                guide = self.client.post(
                    "/api/outlines/take/guide", json={"id": f"g{index}", "edges": edges}
                ).json()
                curve = guide_curves((parse_guide(guide),))[f"g{index}"]
                self.assertAlmostEqual(curve.length, outline["length"], places=3)
                self.assertEqual(curve.closed, outline["closed"])
                boxes.append(curve_bounds(curve))
            self.assertAlmostEqual(min(box[0] for box in boxes), x0, places=3)
            self.assertAlmostEqual(max(box[3] for box in boxes), -y0, places=3)

    def test_a_blank_from_a_file_has_its_holes(self) -> None:
        data = samples.svg('<circle cx="50" cy="50" r="6"/><rect width="100" height="80" rx="9"/>')
        outlines = self.shown("svg", data)["outlines"]
        body = {"outlines": [[edge["data"] for edge in one["edges"]] for one in outlines]}
        blank = self.client.post("/api/outlines/take/blank", json=body).json()
        piece = self.created(blank=blank)
        self.assertEqual(len(piece["piece"]["blank"]["lines"]), 2)
        scene = self.client.post("/api/scene", json={"sequence": 1, "piece": piece["piece"]}).json()
        self.assertEqual([round(v, 3) for v in scene["scene"]["blank_bounds"]], [-50, -40, 50, 40])

    def test_more_than_a_guide_may_hold_is_refused(self) -> None:
        edges = ["M0 0" + "".join(f"L{i} {i % 7}" for i in range(1, 12_000))] * 2
        answer = self.client.post("/api/outlines/take/guide", json={"id": "g", "edges": edges})
        self.assert_problem(answer, 422, "edges")
        answer = self.client.post("/api/outlines/take/guide", json={"id": "1", "edges": ["M0 0H9"]})
        self.assert_problem(answer, 422, "body.id")

    def test_an_open_line_is_no_blank(self) -> None:
        outlines = self.shown("svg", samples.CUBIC01)["outlines"]
        body = {"outlines": [[edge["data"] for edge in outlines[0]["edges"]]]}
        self.assert_problem(
            self.client.post("/api/outlines/take/blank", json=body), 422, "outlines[0]"
        )

    def test_a_bad_file_is_refused_with_the_reason(self) -> None:
        for format, data in (("svg", b"<svg"), ("dxf", b"0\nSECTION"), ("svg", b"")):
            problem = self.assert_problem(
                self.client.post(f"/api/outlines/{format}", content=data), 422
            )
            self.assertIn("the file", problem["detail"])
        for edges in (["nonsense"], ["M0 0"], []):
            self.assert_problem(
                self.client.post("/api/outlines/take/guide", json={"id": "g", "edges": edges}), 422
            )


class Drawers(WebTest):
    def piece(self) -> dict:
        return document(
            guides=[
                {"id": "rim", "kind": "circle", "diameter": 240, "centre": [20, 5]},
                {"id": "out", "kind": "parallel", "guide": "rim", "distance": 12},
            ]
        )

    def saved(self, guide: str, name: str = "Mine") -> dict:
        body = {"name": name, "piece": self.piece(), "guide": guide}
        answer = self.client.post("/api/drawer", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def copied(self, entry: dict, fit: str = "true", piece: dict | None = None) -> dict:
        body = {"piece": piece or self.piece(), "id": "copy", "fit": fit}
        answer = self.client.post(f"/api/drawer/{entry['id']}/copy", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()["guide"]

    def test_a_copy_at_true_size_and_one_fitted_to_the_blank(self) -> None:
        entry = self.saved("rim")
        self.assertEqual(entry["size"], "240 × 240 mm")
        copy = self.copied(entry)
        self.assertEqual((copy["id"], copy["diameter"], copy["centre"]), ("copy", 240, [0, 0]))
        small = {**self.piece(), "blank": {"kind": "rectangle", "width": 100, "height": 60}}
        fitted = guide_curves((parse_guide(self.copied(entry, "blank", small)),))["copy"]
        x0, y0, x1, y1 = curve_bounds(fitted)
        self.assertAlmostEqual(x1 - x0, 48, places=2)
        self.assertAlmostEqual(y0 + y1, 0, places=2)

    def test_a_guide_that_leans_on_others_is_saved_as_its_line(self) -> None:
        copy = self.copied(self.saved("out"))
        curve = guide_curves((parse_guide(copy),))["copy"]
        self.assertAlmostEqual(curve.length, math.pi * 264, places=2)

    def test_renamed_replaced_deleted_restored(self) -> None:
        entry = self.saved("rim")
        path = f"/api/drawer/{entry['id']}"
        self.client.put(path, json={"name": "Other"})
        self.client.put(path, json={"piece": self.piece(), "guide": "out"})
        (found,) = self.client.get("/api/drawer", params={"words": "oth"}).json()
        self.assertEqual((found["name"], found["kind"]), ("Other", "path"))
        self.client.delete(path)
        self.assertEqual(self.client.get("/api/drawer").json(), [])
        self.client.post(path + "/restore")
        self.assertEqual(len(self.client.get("/api/drawer").json()), 1)
        picture = self.client.get(path + "/picture")
        self.assertIn("<path", picture.text)

    def test_handed_on_as_a_file(self) -> None:
        entry = self.saved("rim", "Rim of Quillmere")
        file = self.client.get(f"/api/drawer/{entry['id']}/file")
        self.assertIn("Rim of Quillmere.ulvent-guide.json", file.headers["content-disposition"])
        again = self.client.post(
            "/api/drawer/file", content=file.content, headers={"Content-Type": "application/json"}
        ).json()
        self.assertEqual(self.copied(again), self.copied(entry))

    def test_wrong_files_and_names_are_refused(self) -> None:
        for body, field in (
            (b"{}", "ulvent-guide"),
            (b'{"ulvent-guide": 1}', "name"),
            (b'{"ulvent-guide": 1, "name": "a", "guide": {"id": "g", "kind": "ovoid"}}', "kind"),
            (b'{"ulvent-guide": 1, "name": "a", "guide": {"id": "g", "kind": "arch", "chord": 3, '
             b'"rise": 0}}', "rise"),
        ):  # fmt: skip
            headers = {"Content-Type": "application/json"}
            with self.subTest(field):
                answer = self.client.post("/api/drawer/file", content=body, headers=headers)
                self.assert_problem(answer, 422, field)
        body = {"name": "", "piece": self.piece(), "guide": "rim"}
        self.assert_problem(self.client.post("/api/drawer", json=body), 422, "name")
        body = {"name": "x", "piece": self.piece(), "guide": "none"}
        self.assert_problem(self.client.post("/api/drawer", json=body), 422, "guide")


class LiveGuides(WebTest):
    def ask(self, piece: dict, **request: object) -> dict:
        headers = {"Origin": "http://127.0.0.1:8480"}
        with self.client.websocket_connect(LIVE, headers=headers) as channel:
            channel.send_json({"sequence": 1, "piece": piece, **request})
            return answered(channel)

    def test_a_pulled_point_moves_the_letters_with_it(self) -> None:
        piece = document(guides=[{"id": "rim", **zoo.RECIPES["drawn"]}])
        before = self.ask(piece, chosen="rim")["scene"]
        act = {"act": "pull", "guide": "rim", "grip": "node:1", "start": [0, 0], "end": [0, -9]}
        after = self.ask(piece, chosen="rim", acts=[act])
        self.assertEqual(after["acted"]["guides"][0]["nodes"][1]["at"], [30, 34])
        self.assertNotEqual(
            after["scene"]["letterings"][0]["matrices"], before["letterings"][0]["matrices"]
        )
        grip = next(g for g in after["scene"]["grips"] if g["name"] == "node:1")
        self.assertEqual(grip["at"], [30, -34])

    def test_a_recipe_that_gives_no_line_names_its_field(self) -> None:
        for recipe, field in (
            ({"kind": "drawn", "nodes": [{"at": [0, 0]}, {"at": [0, 0]}]}, "guides[0].nodes"),
            ({"kind": "polygon", "sides": 6, "across": 10, "radius": 9}, "guides[0].radius"),
            ({"kind": "line", "length": 9, "seam": 3}, "guides[0].seam"),
            ({"kind": "line", "length": 9, "part": [5, 30]}, "guides[0].part"),
            ({"kind": "arch", "chord": 9, "rise": 0}, "guides[0].rise"),
        ):
            answer = self.ask(document(guides=[{"id": "rim", **recipe}], letterings=[]))
            with self.subTest(field):
                self.assertEqual(answer["problems"][0]["field"], field)

    def test_measured_between_points(self) -> None:
        scene = self.ask(document(), chosen="rim", marks=[[0, -130], [130, 0]])["scene"]
        self.assertAlmostEqual(scene["measure"]["length"], math.pi * 60, places=6)
        self.assertAlmostEqual(scene["measure"]["radius"], 120, places=6)

    def test_what_an_act_makes_can_be_kept(self) -> None:
        act = {"act": "add-guide", "recipe": {"id": "box", **zoo.RECIPES["rectangle"]}}
        acted = self.ask(document(), acts=[act])["acted"]
        self.assertEqual(acted["guides"][1]["corners"], "keep-off")
        parse_piece(acted)


if __name__ == "__main__":
    unittest.main()
