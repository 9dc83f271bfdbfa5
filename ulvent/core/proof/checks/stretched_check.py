"""Letters that are stretched or squashed on the part, since its side is bent both ways."""

from __future__ import annotations

from collections.abc import Iterator

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding

_SEEN = 0.03
"""The share from which on an eye sees it: common practice, no source."""


def _look(subject: Subject) -> Iterator[Finding]:
    seen = [one for one in subject.part.stretched if max(one.wider, -one.narrower) > _SEEN]
    for lettering in dict.fromkeys(one.lettering for one in seen):
        mine = [one for one in seen if one.lettering == lettering]
        worst = max(mine, key=lambda one: max(one.wider, -one.narrower))
        wider = worst.wider > -worst.narrower
        share = 100.0 * max(worst.wider, -worst.narrower)
        yield CHECK.finding(
            f"“{worst.letter}” is {share:.1f} % {'wider' if wider else 'narrower'} "
            f"at the {worst.at} on the part than laid flat",
            "Make it lower, or the side less crowned.",
            share,
            lettering=lettering,
            letters=tuple(dict.fromkeys(one.letter for one in mine)),
        )


CHECK = Check(kind="stretched", rank=111, severity="warning", unit="%", looks={"solid": _look})
