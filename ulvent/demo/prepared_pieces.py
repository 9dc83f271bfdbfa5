"""Pieces that are prepared for their tools: a stencil, a name of one piece, a frame, a sign."""

from __future__ import annotations

from ulvent.core.recipe import TOOL_SHEETS, Piece, parse_piece

_SHEETS = {sheet.id: sheet.model_dump(mode="json") for sheet in TOOL_SHEETS}


def prepared_pieces() -> list[Piece]:
    """The stencil last, so that it is the newest on the shelf."""
    return [apple_board(), paper_frame(), van_sign(), name_of_one_piece(), crate_stencil()]


def apple_board() -> Piece:
    """A chopping board for the pie table: a round board filled with the orchard's varieties."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Variety board",
            "blank": {"kind": "disc", "diameter": 220},
            "guides": [{"id": "edge", "kind": "circle", "diameter": 200}],
            "letterings": [
                {
                    "id": "varieties",
                    "guide": "edge",
                    "text": "russet · pippin · costard · codlin · pearmain · quarrenden · "
                    "nonpareil · redstreak · foxwhelp · leathercoat · sweeting · bittersweet · "
                    "reinette · calville · gennet",
                    "face": "lato-bold",
                    "height": 9,
                    "fill": {"way": "lines", "margin": 5, "again": True},
                }
            ],
            "tool_sheets": [_SHEETS["brass-graver"] | {"id": "board", "name": "Maple, burnt"}],
        }
    )


def crate_stencil() -> Piece:
    """A stencil for apple crates: its counters are tied with bridges.

    Over 40 lines, since one document is read in one go.
    """
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Crate stencil",
            "blank": {"kind": "rectangle", "width": 320, "height": 150, "radius": 4},
            "guides": [
                {"id": "arch", "kind": "arch", "chord": 290, "rise": 44, "centre": [0, -6]},
                {"id": "line", "kind": "line", "length": 290, "centre": [0, -48]},
            ],
            "letterings": [
                {
                    "id": "name",
                    "guide": "arch",
                    "text": "QUILLMERE ORCHARD",
                    "face": "lato-bold",
                    "height": 19,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "tracking": 1.5,
                    "spacing": "even",
                },
                {
                    "id": "what",
                    "guide": "line",
                    "text": "APPLES · GRADE A",
                    "face": "lato-bold",
                    "height": 19,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "tracking": 2,
                    "spacing": "even",
                },
            ],
            "prepare": {"bridges": {"width": 2}},
            "tool_sheets": [_SHEETS["stencil-blade"]],
        }
    )


def name_of_one_piece() -> Piece:
    """A name for the orchard gate that is cut from plywood as one piece."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Gate name, one piece",
            "blank": {"kind": "rectangle", "width": 300, "height": 110},
            "guides": [{"id": "line", "kind": "line", "length": 280, "centre": [0, -20]}],
            "letterings": [
                {
                    "id": "name",
                    "guide": "line",
                    "text": "Orchard",
                    "face": "archivo-black",
                    "height": 44,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "spacing": "overlap",
                    "overlap": 1.5,
                    "prepare": {
                        "join": {"over": 0.2},
                        "bands": [{"along": "line", "width": 4, "aside": 2}],
                        "rounding": {"outside": 0.4, "inside": 0.4},
                    },
                }
            ],
            "tool_sheets": [_SHEETS["plywood-beam"]],
            "run": {
                "passes": [
                    {"id": "cut", "name": "Cut", "tool": "beam", "works": [{"what": "cut"}],
                     "kerf": [{"width": 0.16, "side": "outward", "edges": True}]},
                ]
            },
        }
    )  # fmt: skip


def paper_frame() -> Piece:
    """A paper frame: its words are drawn with a pen, then its ring is cut."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Paper frame",
            "blank": {"kind": "ring", "outer": 190, "inner": 120},
            "sheet": {"width": 210, "height": 297},
            "guides": [
                {"id": "words-ring", "kind": "circle", "diameter": 146, "start": 90,
                 "turn": "clockwise"},
                {"id": "outer-edge", "kind": "circle", "diameter": 186, "output": "cut"},
                {"id": "inner-edge", "kind": "circle", "diameter": 124, "output": "cut"},
            ],
            "letterings": [
                {
                    "id": "words",
                    "guide": "words-ring",
                    "text": "Autumn fair at Quillmere · second Saturday in October ·",
                    "face": "zilla-slab-semibold",
                    "height": 9,
                    "at": 0,
                    "spacing": "even",
                    "fit": {"kind": "gap"},
                    "prepare": {
                        "strokes": {"kind": "hatch", "pitch": 0.6, "angle": 30, "pen": 0.3}
                    },
                }
            ],
            "tool_sheets": [_SHEETS["paper-pen"]],
            "run": {
                "passes": [
                    {"id": "draw", "name": "Words", "tool": "pen", "works": [{"what": "draw"}]},
                    {"id": "cut", "name": "Edges", "tool": "blade", "works": [{"what": "cut"}],
                     "pause": "Pen out, blade in; leave the sheet where it is",
                     "overcut": 0.5, "trail": 0.25},
                ],
            },
        }
    )  # fmt: skip


def van_sign() -> Piece:
    """A sign for the side of the fair's van: vinyl letters on a border of another colour.

    Over 40 lines, since one document is read in one go.
    """
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Van sign",
            "blank": {"kind": "rectangle", "width": 600, "height": 260, "radius": 10},
            "guides": [
                {"id": "wave", "kind": "wave", "length": 500, "height": 18, "waves": 1,
                 "centre": [0, 8]},
                {"id": "line", "kind": "line", "length": 420, "centre": [0, -82]},
            ],
            "letterings": [
                {
                    "id": "name",
                    "guide": "wave",
                    "text": "Orchard",
                    "face": "kaushan-script",
                    "height": 84,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "shape": "bent",
                    "spacing": "overlap",
                    "overlap": 1.2,
                    "prepare": {
                        "join": {},
                        "borders": [{"distance": 8, "corners": "round", "fill": 12}],
                        "rounding": {"inside": 0.4, "outside": 0.2},
                    },
                },
                {
                    "id": "what",
                    "guide": "line",
                    "text": "CIDER & APPLES",
                    "face": "barlow-condensed-semibold",
                    "height": 32,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "tracking": 2,
                    "spacing": "even",
                },
            ],
            "tool_sheets": [_SHEETS["vinyl-blade"]],
            # The notch in the foot of the A closes: no one will see it from the road.
            "accepted": [{"key": "narrow-gap:what", "sheet": "vinyl-blade", "figure": 0.2}],
            "run": {
                "passes": [
                    {"id": "cut", "name": "Vinyl", "tool": "blade", "works": [{"what": "cut"}],
                     "overcut": 0.4, "trail": 0.25},
                ],
                "weeding": 12,
            },
        }
    )  # fmt: skip
