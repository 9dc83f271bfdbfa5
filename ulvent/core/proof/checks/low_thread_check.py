"""Letters that are too low to be read in thread on their cloth."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.base.tolerances import JOINT
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding


def _look(subject: Subject) -> Iterator[Finding]:
    cloth = subject.sewn.cloth
    least = cloth.least_height
    by_lettering: dict[str, list[tuple[float, str, tuple[float, float]]]] = {}
    for one in subject.sewn.letters:
        if 0.0 < one.height < least - JOINT:
            by_lettering.setdefault(one.lettering, []).append((one.height, one.letter, one.at))
    for lettering, low in by_lettering.items():
        height, _, at = min(low)
        yield CHECK.finding(
            f"letters are {height:.2f} mm high; on {cloth.title.lower()} thread needs {least:g} mm",
            "Make the letters higher, or take a finer thread.",
            height,
            limit=least,
            lettering=lettering,
            letters=tuple(dict.fromkeys(letter for _, letter, _ in low)),
            places=(at,),
        )


CHECK = Check(
    kind="low-thread", rank=100, severity="warning", unit="mm", looks={"thread": _look},
    less_is_worse=True,
)  # fmt: skip
