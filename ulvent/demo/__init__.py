"""The demo: pieces of Quillmere, a community orchard, for its autumn fair."""

from __future__ import annotations

from ulvent.core.recipe import Piece
from ulvent.demo.circle_pieces import barrel_head, circle_pieces
from ulvent.demo.fit_pieces import fit_pieces
from ulvent.demo.guide_pieces import guide_pieces
from ulvent.demo.lettering_pieces import lettering_pieces
from ulvent.demo.names_pieces import names_pieces
from ulvent.demo.prepared_pieces import prepared_pieces
from ulvent.demo.sewn_pieces import sewn_pieces
from ulvent.demo.solid_pieces import solid_pieces

__all__ = ["barrel_head", "demo_pieces", "demo_sets"]


def demo_sets() -> dict[str, list[Piece]]:
    """The demo pieces by the note under which each set is loaded once, newest on the shelf last."""
    return {
        "demo pieces: guides": guide_pieces(),
        "demo pieces: letterings": lettering_pieces(),
        "demo pieces: fits": fit_pieces(),
        "demo pieces: prepared": prepared_pieces(),
        "demo pieces: sewn": sewn_pieces(),
        "demo pieces: solid": solid_pieces(),
        "demo pieces: names": names_pieces(),
        "demo pieces: circles": circle_pieces(),
    }


def demo_pieces() -> list[Piece]:
    """All demo pieces."""
    return [piece for pieces in demo_sets().values() for piece in pieces]
