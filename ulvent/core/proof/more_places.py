"""What mends labels that have no place on their guide: more places, or fewer labels."""

from __future__ import annotations

import math
from typing import Any

from ulvent.core.layout import Layout
from ulvent.core.proof.remedy import Remedy
from ulvent.core.proof.trying import offer
from ulvent.core.recipe import Dial, Lettering
from ulvent.core.setting import Setting
from ulvent.core.setting.letters.sequences import label_texts
from ulvent.core.setting.rows.arrange import guide_station


def more_places(layout: Layout, lettering: Lettering, line: Setting) -> list[Remedy]:
    """All remedies for a lettering of which some labels have no place."""
    dial = lettering.dial
    if dial is None:
        return []
    texts = label_texts(dial.labels, words=lettering.text)
    changes = [
        _evenly(dial, line, len(texts)),
        _nearer(dial, lettering, line, len(texts)),
        _without_spaces(dial),
        _fewer(dial, line, texts),
    ]
    offered = [offer(layout, lettering, *change) for change in changes if change is not None]
    return [remedy for remedy in offered if remedy is not None]


Change = tuple[str, dict[str, Any]]


def _with(dial: Dial, **changes: Any) -> dict[str, Any]:
    return {"dial": dial.model_dump(mode="json") | changes}


def _evenly(dial: Dial, line: Setting, count: int) -> Change | None:
    """As many places as there are labels; on an open guide from its start to its end."""
    if not count:
        return None
    change = _with(dial, divisions=None, places=[], pitch=None, on=None)
    if not line.guide.closed:
        change |= {"at": 0.0, "at_in": "start" if dial.way == "along" else "end"}
    return f"{count} places, evenly", change


def _nearer(dial: Dial, lettering: Lettering, line: Setting, count: int) -> Change | None:
    """The widest pitch that has room for all, rounded down."""
    guide = line.guide
    if dial.pitch is None or count < 2:
        return None
    first = guide_station(lettering, guide)
    room = guide.length - first if dial.way == "along" else first
    widest = guide.length / count if guide.closed else room / (count - 1)
    pitch = math.floor(widest * 100.0) / 100.0
    return (f"one every {pitch:g} mm", _with(dial, pitch=pitch)) if pitch > 0.0 else None


def _without_spaces(dial: Dial) -> Change | None:
    if dial.labels.kind != "phrase" or not dial.labels.spaces:
        return None
    return "no places for spaces", _with(dial, labels={"kind": "phrase", "spaces": False})


def _fewer(dial: Dial, line: Setting, texts: list[str]) -> Change | None:
    """Without the last labels, where it is those that have no place."""
    labels, kept = dial.labels, len(texts) - len(line.unplaced)
    if kept < 1 or tuple(texts[kept:]) != line.unplaced:
        return None
    changed = labels.model_dump(mode="json")
    if labels.kind == "list":
        label = f"leave out the last {len(line.unplaced)}"
        return label, _with(dial, labels=changed | {"words": texts[:kept]})
    if labels.kind in ("figures", "roman", "letters"):
        last = labels.first + (kept - 1) * labels.step
        return f"stop at {texts[kept - 1]}", _with(dial, labels=changed | {"last": last})
    return None
