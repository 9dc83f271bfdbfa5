"""Random pieces and acts: whatever comes is answered, and no answer is a failure of ours."""

from __future__ import annotations

import unittest
from typing import Any

from pydantic import TypeAdapter

from tests.fuzzing import Fuzz
from tests.web.served import WebTest
from ulvent.core.acts import AnyAct
from ulvent.core.proof import CHECKS
from ulvent.core.recipe import Piece

SEEDS = range(35)
ACTS_A_PIECE = 8
MENDED = [kind for kind, check in CHECKS.items() if check.remedies is not None]
FAILED = "the log has more"


class RandomPieces(WebTest):
    def test_everything_is_answered(self) -> None:
        acts = TypeAdapter(AnyAct).json_schema()
        sound = done = 0
        for seed in SEEDS:
            fuzz = Fuzz(seed, Piece.model_json_schema())
            piece = fuzz.piece()
            first = self.asked("/api/scene", seed, sequence=1, piece=piece)
            if first.json().get("scene") is None:
                continue
            sound += 1
            self.asked("/api/proof", seed, piece=piece)
            for kind in MENDED:
                self.asked("/api/remedies", seed, piece=piece, kind=kind, lettering="t0")
            doing = Fuzz(seed, acts)
            doing.guides, doing.letterings = fuzz.guides, fuzz.letterings
            for one in doing.random.sample(acts["oneOf"], ACTS_A_PIECE):
                act = doing.value(one)
                answer = self.asked("/api/scene", seed, sequence=2, piece=piece, acts=[act])
                done += answer.json().get("acted") is not None
        # What is refused at once would prove nothing.
        self.assertGreater(sound, 8)
        self.assertGreater(done, 8)

    def asked(self, path: str, seed: int, **body: object) -> Any:
        answer = self.client.post(path, json=body)
        self.assertLess(answer.status_code, 500, (seed, path, answer.text[:300]))
        self.assertNotIn(FAILED, answer.text, (seed, path, body.get("acts")))
        return answer


if __name__ == "__main__":
    unittest.main()
