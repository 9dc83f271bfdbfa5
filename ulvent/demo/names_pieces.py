"""Pieces that are made again and again: tags for all trees of the orchard, pegs and place cards
for its helpers."""

from __future__ import annotations

from itertools import product

from ulvent.core.recipe import Piece, parse_piece

_FIRST = (
    "Quillmere", "Hollow", "Fallow", "Harrow", "Mossback", "Lantern", "Bellwether", "Cobble",
    "Starling", "Thistle", "Wren", "Juniper",
)  # fmt: skip
_SECOND = (
    "Russet", "Pippin", "Kernel", "Seedling", "Pearmain", "Costard", "Sweet", "Bitter", "Codlin",
    "Longkeeper",
)  # fmt: skip
_HELPERS = (
    "Ann", "Bartholomew", "Cecily", "Dai", "Eleanor", "Florence", "Gwen", "Hugh", "Iris", "Jonty",
    "Marguerite", "Oswin",
)  # fmt: skip


def names_pieces() -> list[Piece]:
    """All of them, newest on the shelf last."""
    return [coat_pegs(), place_cards(), tree_tags()]


def place_cards() -> Piece:
    """A card for each helper at the supper, and three for guests who are not named yet."""
    seats = [(name, str(1 + place // 4)) for place, name in enumerate(_HELPERS)]
    guests = {"cells": ["Guest", "4"], "times": 3}
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Place cards",
            "blank": {"kind": "rectangle", "width": 90, "height": 54, "radius": 5},
            "edge": "cut",
            "guides": [
                {"id": "arc", "kind": "arc", "radius": 110, "angle": 40, "centre": [0, -106]},
                {"id": "below", "kind": "line", "length": 76, "centre": [0, -16]},
            ],
            "letterings": [
                {"id": "name", "guide": "arc", "text": "{name}", "face": "zilla-slab-semibold",
                 "height": 12, "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even",
                 "fit": {"kind": "height", "margin": 1, "most": 12}, "output": "draw"},
                {"id": "table", "guide": "below", "text": "Apple supper[ · table {table}]",
                 "face": "lato-bold", "height": 4, "at": 0.5, "at_in": "share",
                 "align": "centre", "output": "draw"},
            ],
            "names": {"head": ["name", "table"],
                      "rows": [*({"cells": list(seat)} for seat in seats), guests]},
        }
    )  # fmt: skip


def tree_tags() -> Piece:
    """A tag for each of a hundred and twenty varieties, numbered as the rows stand."""
    rows = [f"{one} {two}" for one, two in product(_FIRST, _SECOND)]
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Tree tags",
            "blank": {"kind": "tag", "width": 96, "height": 34, "radius": 6, "hole": 5,
                      "hole_inset": 8},
            "edge": "cut",
            "guides": [
                {"id": "line", "kind": "line", "length": 72, "centre": [7, 0]},
                {"id": "below", "kind": "line", "length": 72, "centre": [7, -10]},
            ],
            "letterings": [
                {"id": "name", "guide": "line", "text": "{variety}", "face": "zilla-slab-semibold",
                 "height": 7, "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even",
                 "fit": {"kind": "height", "margin": 1, "most": 7},
                 "output": "engrave"},
                {"id": "tree", "guide": "below", "text": "tree {number:000}", "face": "lato-bold",
                 "height": 3.2, "at": 0.5, "at_in": "share", "align": "centre",
                 "output": "engrave"},
            ],
            "names": {"head": ["variety", "number"],
                      "rows": [{"cells": [name, str(number)]}
                               for number, name in enumerate(rows, 1)],
                      "one_height": True},
        }
    )  # fmt: skip


def coat_pegs() -> Piece:
    """Name boards over the helpers' coat pegs: one height, the largest with which all fit."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Coat pegs",
            "blank": {"kind": "rectangle", "width": 130, "height": 34, "radius": 4},
            "guides": [{"id": "line", "kind": "line", "length": 112, "centre": [0, -6]}],
            "letterings": [
                {"id": "name", "guide": "line", "text": "{name}", "face": "nunito-extrabold",
                 "height": 12, "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even",
                 "fit": {"kind": "height", "margin": 2, "most": 16}},
            ],
            "names": {"rows": [{"cells": [name]} for name in _HELPERS], "one_height": True},
        }
    )  # fmt: skip
