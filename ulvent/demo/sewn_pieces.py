"""Pieces that are sewn: a badge in satin, a border in one line, rows on felt, cloth on cloth."""

from __future__ import annotations

from ulvent.core.recipe import Piece, parse_piece


def sewn_pieces() -> list[Piece]:
    """All of them, newest on the shelf last."""
    return [gate_banner(), felt_pennant(), quilt_border(), apron_badge()]


def apron_badge() -> Piece:
    """A badge for the helpers' aprons: satin on an arch, a smaller line below."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Apron badge",
            "blank": {"kind": "rectangle", "width": 118, "height": 62, "radius": 10},
            "guides": [
                {"id": "arch", "kind": "arch", "chord": 96, "rise": 20, "centre": [0, -6]},
                {"id": "below", "kind": "line", "length": 90, "centre": [0, -20]},
            ],
            "letterings": [
                {"id": "name", "guide": "arch", "text": "QUILLMERE", "face": "zilla-slab-semibold",
                 "height": 10.5, "at": 0.5, "at_in": "share", "align": "centre", "tracking": 0.5},
                {"id": "what", "guide": "below", "text": "Orchard helper", "face": "lato-bold",
                 "height": 8, "at": 0.5, "at_in": "share", "align": "centre", "tracking": 0.5},
            ],
            "sewing": {"cloth": "canvas", "hoop": {"width": 130, "height": 180, "turned": True}},
        }
    )  # fmt: skip


def quilt_border() -> Piece:
    """A quilt's border: words run on as one line from edge to edge."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Quilt border",
            "blank": {"kind": "rectangle", "width": 460, "height": 70},
            "guides": [
                {"id": "wave", "kind": "wave", "length": 150, "height": 12, "waves": 3,
                 "centre": [0, -8]},
            ],
            "letterings": [
                {"id": "words", "guide": "wave", "text": "apple pear plum quince medlar",
                 "face": "hershey-sans", "height": 17, "at": 0.5, "at_in": "share",
                 "align": "centre", "tracking": 1},
            ],
            "sewing": {"thread": "quilting", "speed": 500,
                       "letterings": [{"of": "words", "stitch": "quilted"}]},
        }
    )  # fmt: skip


def felt_pennant() -> Piece:
    """A pennant of felt for the pie table, its letters filled in rows."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Felt pennant",
            "blank": {"kind": "rectangle", "width": 210, "height": 84},
            "guides": [{"id": "line", "kind": "line", "length": 190, "centre": [0, -18]}],
            "letterings": [
                {"id": "word", "guide": "line", "text": "PIES", "face": "archivo-black",
                 "height": 46, "at": 0.5, "at_in": "share", "align": "centre", "tracking": 3},
            ],
            "sewing": {"cloth": "felt", "letterings": [{"of": "word", "stitch": "rows",
                                                        "angle": 20}]},
        }
    )  # fmt: skip


def gate_banner() -> Piece:
    """A banner for the gate: letters of cloth, laid on and covered at their edges."""
    return parse_piece(
        {
            "ulvent": 1,
            "title": "Gate banner, appliqué",
            "blank": {"kind": "rectangle", "width": 360, "height": 130},
            "guides": [{"id": "line", "kind": "line", "length": 340, "centre": [0, -34]}],
            "letterings": [
                {"id": "word", "guide": "line", "text": "FAIR", "face": "alfa-slab-one",
                 "height": 76, "at": 0.5, "at_in": "share", "align": "centre", "tracking": 6},
            ],
            "sewing": {"cloth": "woven-cotton",
                       "hoop": {"width": 160, "height": 260, "basting": True},
                       "letterings": [{"of": "word", "stitch": "applique"}]},
        }
    )  # fmt: skip
