"""The workshop: from a piece to its layout, its prepared layers and its proof, each made once.

Everyone who needs more of a piece than its document asks here: live work, saving, export,
pictures, proof, remedies and the command line. What was made of a piece is remembered by what
its document holds, within a bound of memory.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from functools import cached_property
from threading import RLock
from typing import TYPE_CHECKING, Any, TypeVar

from cachetools import LRUCache

from ulvent.core.base.errors import wrong_field
from ulvent.core.layout import FaceNamed, Layout, lay_out, solved
from ulvent.core.recipe import Piece, parse_piece

if TYPE_CHECKING:
    from ulvent.core.prepare import Group, Prepared
    from ulvent.core.proof import Finding, OtherFaces, Proof, Remedy
    from ulvent.core.runs import Run
    from ulvent.core.solids import MadeSolid
    from ulvent.core.stitches import Embroidery

# Preparing and proof are imported when they are asked for: who only measures needs neither.

ROOM = 192_000_000
"""Bytes that what is remembered may take up."""
_BYTES_A_PIECE = 300_000
_BYTES_A_LETTER = {
    "layout": 10_000,
    "ready": 40_000,
    "proof": 80_000,
    "run": 20_000,
    "embroidery": 20_000,
    "solid": 100_000,
}
"""What a piece takes up, and what each letter adds with each thing that is made of it: about the
most that was measured, over the demo's pieces and random ones."""

Made = TypeVar("Made")


def document_hash(piece: Piece) -> str:
    """Names what a piece's document holds: pieces with one hash are equal."""
    return hashlib.sha256(piece.model_dump_json().encode()).hexdigest()[:32]


class Workpiece:
    """A piece and what is made of it: each thing once, when it is first asked for.

    Safe between threads: who asks for what is being made waits for it. What cannot be made is
    refused each time it is asked for.
    """

    def __init__(
        self,
        piece: Piece,
        faces: FaceNamed,
        others: OtherFaces,
        in_hand: bool = False,
        grown: Callable[[Workpiece], None] | None = None,
    ) -> None:
        self.piece = piece
        self._faces, self._others, self._in_hand, self._grown = faces, others, in_hand, grown
        self._lock = RLock()
        self._made: dict[str, Any] = {}

    def like(self, piece: Piece) -> Workpiece:
        """Another piece, with the same faces; it is not remembered."""
        return Workpiece(piece, self._faces, self._others)

    def _once(self, name: str, make: Callable[[], Made]) -> Made:
        with self._lock:
            if name not in self._made:
                self._made[name] = make()
                if self._grown is not None:
                    self._grown(self)
            made: Made = self._made[name]
            return made

    @cached_property
    def hash(self) -> str:
        """Names what the piece's document holds."""
        return document_hash(self.piece)

    @property
    def layout(self) -> Layout:
        """The piece laid out.

        Raises
        ------
        PieceError
            As `lay_out` does.
        """
        return self._once("layout", lambda: lay_out(self.piece, self._faces, self._in_hand))

    @property
    def solved(self) -> Piece:
        """The piece with all that its fits come to in its figures; the fits stay.

        Raises
        ------
        PieceError
            As `lay_out` does.
        """
        if all(lettering.fit is None for lettering in self.piece.letterings):
            return self.piece
        return self._once("solved", lambda: solved(self.layout))

    @property
    def ready(self) -> Prepared:
        """The piece prepared: what a tool gets.

        Raises
        ------
        PieceError
            As `lay_out` and `prepared` do.
        """
        from ulvent.core.prepare import prepared

        return self._once("ready", lambda: prepared(self.layout))

    @property
    def groups(self) -> tuple[Group, ...]:
        """What a file of it holds.

        Raises
        ------
        PieceError
            As `lay_out` and `prepared` do.
        """
        from ulvent.core.prepare import file_groups

        return self._once("groups", lambda: file_groups(self.layout, self.ready))

    @property
    def run(self) -> Run:
        """What the machine does for it.

        Raises
        ------
        PieceError
            As `lay_out`, `prepared` and `run_of` do.
        """
        from ulvent.core.runs import run_of

        return self._once("run", lambda: run_of(self.layout, self.groups))

    @property
    def embroidery(self) -> Embroidery:
        """It in thread.

        Raises
        ------
        PieceError
            As `lay_out` and `prepared` do.
        """
        from ulvent.core.stitches import sewn

        return self._once("embroidery", lambda: sewn(self.layout, self.groups))

    @property
    def solid(self) -> MadeSolid:
        """The part that it becomes.

        Raises
        ------
        PieceError
            As `lay_out`, `prepared` and `solid_of` do.
        """
        from ulvent.core.solids import solid_of

        return self._once("solid", lambda: solid_of(self.layout, self.ready))

    @property
    def proof(self) -> Proof:
        """The piece's proof, with all findings.

        Raises
        ------
        PieceError
            As `lay_out` and `prepared` do.
        """
        from ulvent.core.proof import prove

        # A plain run needs no looking at, and putting lines in order takes a while.
        run = self.run if self.piece.run is not None else None
        thread = self.embroidery if self.piece.sewing is not None else None
        solid = self.solid if self.piece.solid is not None else None
        return self._once(
            "proof", lambda: prove(self.layout, self.ready, self._others, run, thread, solid)
        )

    @property
    def left_out(self) -> str:
        """What a file of it lacks, in words; nothing where it has all letters."""
        absent, every = self.layout.letters_left_out
        if not absent:
            return ""
        return f"{absent} of {every} letters {'is' if absent == 1 else 'are'} not in the file"

    @property
    def findings(self) -> tuple[Finding, ...]:
        """Those findings that need nothing prepared: quick enough for a pull."""
        from ulvent.core.proof import prove_layout

        return self._once("findings", lambda: prove_layout(self.layout, self._others))

    def remedies(self, kind: str, lettering: str) -> list[Remedy]:
        """What mends a finding of a lettering; all of it is tried, which takes a while.

        Raises
        ------
        PieceError
            When there is no such finding or lettering, or the piece cannot be laid out.
        """
        from ulvent.core.proof import CHECKS, tried_remedies

        if kind not in CHECKS:
            raise wrong_field("kind", f"there is no finding “{kind}”")
        if all(one.id != lettering for one in self.piece.letterings):
            raise wrong_field("lettering", "there is no such lettering")
        made = self._once(
            f"remedies {kind} {lettering}", lambda: tried_remedies(self.layout, kind, lettering)
        )
        return list(made)

    def with_remedies(self, finding: Finding) -> Finding:
        """A finding with all remedies, those too that must be tried."""
        tried = self.remedies(finding.kind, finding.lettering) if finding.lettering else []
        return finding.model_copy(update={"remedies": (*finding.remedies, *tried)})

    @property
    def weight(self) -> int:
        """About what it takes up with all that has been made of it, bytes."""
        layout: Layout | None = self._made.get("layout")
        letters = sum(len(line.clusters) for line in layout.settings) if layout else 0
        a_letter = sum(size for name, size in _BYTES_A_LETTER.items() if name in self._made)
        return _BYTES_A_PIECE + a_letter * letters


class Workshop:
    """Makes workpieces, and remembers those that were asked for last.

    faces
        gives the face of a name, or raises `FaceError`
    others
        faces that are offered where letters are missing
    room
        bytes that what is remembered may take up
    """

    def __init__(self, faces: FaceNamed, others: OtherFaces = tuple, room: int = ROOM) -> None:
        self._faces, self._others = faces, others
        self._lock = RLock()
        self._remembered: LRUCache[str, Workpiece] = LRUCache(room, lambda piece: piece.weight)

    def of(self, piece: Piece) -> Workpiece:
        """The workpiece of a piece, the same for equal pieces while it is remembered."""
        made = Workpiece(piece, self._faces, self._others, grown=self._weigh)
        with self._lock:
            known = self._remembered.get(made.hash)
            if known is not None:
                return known
            self._remember(made)
        return made

    def of_document(self, document: Any) -> Workpiece:
        """The workpiece of decoded JSON.

        Raises
        ------
        PieceError
            As `parse_piece` does.
        """
        return self.of(parse_piece(document))

    def known(self, hash: str) -> Workpiece | None:
        """The workpiece with a hash, while it is remembered."""
        with self._lock:
            return self._remembered.get(hash)

    def in_passing(self, piece: Piece) -> Workpiece:
        """A piece that is made once and not remembered."""
        return Workpiece(piece, self._faces, self._others)

    def in_hand(self, piece: Piece) -> Workpiece:
        """A piece that is pulled about: its gaps are less exact, and it is not remembered."""
        return Workpiece(piece, self._faces, self._others, in_hand=True)

    def _weigh(self, piece: Workpiece) -> None:
        """More has been made of a piece: if it is remembered, others may have to go."""
        with self._lock:
            if self._remembered.get(piece.hash) is piece:
                self._remember(piece)

    def _remember(self, piece: Workpiece) -> None:
        self._remembered.pop(piece.hash, None)
        if piece.weight <= self._remembered.maxsize:
            self._remembered[piece.hash] = piece
