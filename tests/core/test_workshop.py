"""The workshop: what is made of a piece is made once, for whoever asks, within a bound."""

from __future__ import annotations

import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest.mock import patch

from tests.makings import document, with_lettering
from ulvent.core import workshop
from ulvent.core.base.errors import PieceError
from ulvent.core.workshop import Workshop
from ulvent.formats.out import FORMATS
from ulvent.shipped_faces import shipped_face, shipped_faces


def opened(**more: Any) -> Workshop:
    return Workshop(shipped_face, shipped_faces, **more)


class Counted:
    """How often a step of the way is gone, with what it does."""

    def __init__(self, name: str) -> None:
        module, _, function = name.rpartition(".")
        self._target = name
        self._does = getattr(__import__(module, fromlist=[function]), function)
        self.times = 0

    def __enter__(self) -> Counted:
        def counting(*arguments: Any, **more: Any) -> Any:
            self.times += 1
            return self._does(*arguments, **more)

        self._patch = patch(self._target, counting)
        self._patch.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._patch.stop()


LAYING_OUT, PREPARING = "ulvent.core.workshop.lay_out", "ulvent.core.prepare.prepared"
PROOFING = "ulvent.core.proof.prove"


class Once(unittest.TestCase):
    def test_an_export_after_the_proof_prepares_nothing_again(self) -> None:
        shop = opened()
        with Counted(LAYING_OUT) as laying, Counted(PREPARING) as preparing:
            self.assertTrue(shop.of_document(document()).proof.ready.layers)
            for format in FORMATS.values():
                format.write(shop.of_document(document()), True)
        self.assertEqual((laying.times, preparing.times), (1, 1))

    def test_two_documents_that_mean_the_same_are_one_piece(self) -> None:
        shop = opened()
        plain = document(letterings=[])
        spelled = document(letterings=[], sheet=None, accepted=[])
        self.assertIs(shop.of_document(plain), shop.of_document(spelled))
        self.assertIsNot(shop.of_document(plain), shop.of_document(document(title="Lid")))

    def test_a_piece_is_known_by_its_hash(self) -> None:
        shop = opened()
        piece = shop.of_document(document())
        self.assertIs(shop.known(piece.hash), piece)
        self.assertIsNone(shop.known("nothing"))

    def test_a_piece_in_hand_is_not_remembered(self) -> None:
        shop = opened()
        held = shop.in_hand(shop.of_document(with_lettering(height=20)).piece)
        self.assertIsNot(shop.of(held.piece), held)

    def test_what_cannot_be_made_is_refused_each_time(self) -> None:
        piece = opened().of_document(with_lettering(reading="against", standoff=500))
        for _ in range(2):
            self.assertRaises(PieceError, lambda: piece.layout)

    def test_threads_that_ask_at_once_wait_for_one_making(self) -> None:
        shop, gate = opened(), threading.Barrier(8)

        def ask(_: int) -> tuple[Any, Any]:
            gate.wait()
            piece = shop.of_document(document())
            return piece.layout, piece.proof

        with Counted(LAYING_OUT) as laying, Counted(PROOFING) as proofing:
            with ThreadPoolExecutor(8) as threads:
                found = list(threads.map(ask, range(8)))
            self.assertEqual((laying.times, proofing.times), (1, 1))
        self.assertEqual(len({tuple(map(id, one)) for one in found}), 1)


class Room(unittest.TestCase):
    def test_the_oldest_go_when_there_is_no_room_for_more(self) -> None:
        one = opened().of_document(document())
        self.assertEqual(one.proof.faults, ())
        shop = opened(room=int(2.5 * one.weight))
        pieces = []
        for number in range(4):
            pieces.append(shop.of_document(document(title=f"Lid {number}")))
            self.assertEqual(pieces[-1].proof.faults, ())
        known = [shop.known(piece.hash) is piece for piece in pieces]
        self.assertEqual(known, [False, False, True, True])

    def test_a_piece_weighs_more_the_more_is_made_of_it(self) -> None:
        piece = opened().of_document(document())
        weights = [piece.weight]
        for name in ("layout", "ready", "proof"):
            getattr(piece, name)
            weights.append(piece.weight)
        self.assertEqual(weights, sorted(set(weights)))

    def test_a_piece_that_is_too_large_is_made_and_not_remembered(self) -> None:
        shop = opened(room=workshop._BYTES_A_PIECE + 1)
        piece = shop.of_document(document())
        self.assertIs(shop.known(piece.hash), piece)
        self.assertTrue(piece.layout.settings)
        self.assertIsNone(shop.known(piece.hash))


if __name__ == "__main__":
    unittest.main()
