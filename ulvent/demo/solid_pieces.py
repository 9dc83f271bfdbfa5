"""Pieces that become parts: a ferrule, a ring for sealing wax, a napkin ring, a sign in oak."""

from __future__ import annotations

from ulvent.core.recipe import Piece, parse_piece


def solid_pieces() -> list[Piece]:
    """All of them, newest on the shelf last."""
    return [oak_sign(), napkin_ring(), wax_seal(), stick_ferrule()]


def stick_ferrule() -> Piece:
    """A ferrule for a walking stick: a cone of brass with a name that goes all the way round."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Stick ferrule",
            "blank": {"kind": "side", "diameter": 26, "top": 21, "height": 30},
            "guides": [{"id": "round", "kind": "belt", "girth": 70, "centre": [0, -3]}],
            "letterings": [
                {"id": "name", "guide": "round", "text": "QUILLMERE ORCHARD • ",
                 "face": "lato-bold", "height": 4.2, "spacing": "even", "fit": {"kind": "gap"}},
            ],
            "solid": {"bore": 18, "edge": "bevelled", "edge_size": 0.4, "material": "brass",
                      "making": "milling", "cutter": 0.5,
                      "relief": {"relief": "sunk", "by": 0.4}},
        }
    )  # fmt: skip


def wax_seal() -> Piece:
    """A signet for sealing jars with wax: words round its head, a year on its shoulder."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Wax seal ring",
            "blank": {"kind": "signet", "head_width": 17, "head_height": 15, "rise": 1.6,
                      "inner": 18.2, "width": 8, "back_width": 4, "thickness": 2},
            "guides": [
                {"id": "rim", "kind": "circle", "diameter": 9.6},
                {"id": "middle", "kind": "line", "length": 9, "centre": [0, -1.6]},
                {"id": "shoulder", "kind": "belt", "girth": 60, "centre": [0, -17]},
            ],
            "letterings": [
                {"id": "words", "guide": "rim", "text": "QUILLMERE • CIDER • ",
                 "face": "barlow-condensed-semibold", "height": 2, "spacing": "even",
                 "fit": {"kind": "gap"}},
                {"id": "letter", "guide": "middle", "text": "Q", "face": "eb-garamond",
                 "height": 3.6, "at": 0.5, "at_in": "share", "align": "centre"},
                {"id": "year", "guide": "shoulder", "text": "PRESSED", "face": "lato-bold",
                 "height": 2.4, "at": 0.74, "at_in": "share", "align": "centre"},
            ],
            "solid": {"material": "silver", "making": "casting", "shrinkage": 1.5,
                      "relief": {"relief": "sunk", "by": 0.5, "draft": 5},
                      "letterings": [{"of": "year", "relief": "raised", "by": 0.4}]},
        }
    )  # fmt: skip


def napkin_ring() -> Piece:
    """A ring for the supper's napkins: crowned, wider at the front, lettering raised."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Supper napkin ring",
            "blank": {"kind": "band", "inner": 38, "width": 22, "back_width": 14, "thickness": 3,
                      "crown": 40},
            "guides": [{"id": "round", "kind": "belt", "girth": 138, "centre": [0, -3.5]}],
            "letterings": [
                {"id": "words", "guide": "round", "text": "apple supper, quillmere • ",
                 "face": "nunito-extrabold", "height": 7.4, "spacing": "even",
                 "fit": {"kind": "gap"}},
            ],
            "solid": {"material": "pla",
                      "relief": {"by": 0.9, "edge": "rounded", "edge_size": 0.25}},
        }
    )  # fmt: skip


def oak_sign() -> Piece:
    """A sign for the press house: sunk into oak, its edge rounded."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Oak sign",
            "blank": {"kind": "rectangle", "width": 320, "height": 130, "radius": 18},
            "guides": [
                {"id": "arch", "kind": "arch", "chord": 260, "rise": 26, "centre": [0, -2]},
                {"id": "below", "kind": "line", "length": 200, "centre": [0, -42]},
            ],
            "letterings": [
                {"id": "name", "guide": "arch", "text": "PRESS HOUSE", "face": "eb-garamond",
                 "height": 28, "at": 0.5, "at_in": "share", "align": "centre", "spacing": "even"},
                {"id": "hours", "guide": "below", "text": "mind the step", "face": "eb-garamond",
                 "height": 14, "at": 0.5, "at_in": "share", "align": "centre"},
            ],
            "solid": {"thickness": 18, "edge": "rounded", "edge_size": 3, "material": "oak",
                      "making": "milling", "cutter": 2, "tolerance": 0.03,
                      "relief": {"relief": "grooved", "by": 5, "angle": 60}},
            "run": {"passes": [
                {"id": "groove", "name": "Groove", "tool": "v-bit", "depth": 5, "step": 2.5,
                 "works": [{"what": "letters", "of": "name"}, {"what": "letters", "of": "hours"}]},
            ]},
        }
    )  # fmt: skip
