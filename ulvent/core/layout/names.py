"""What guides and letterings are called: as a person named them, or would."""

from __future__ import annotations

import re

from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.layout.layout import Layout
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting

_MOST_WORDS = 40


def guide_name(guide: GuideRecipe) -> str:
    """What a guide is called: by its id where it has no name."""
    words = guide.name.strip() or re.sub(r"[-_]+", " ", guide.id)
    return words[:1].upper() + words[1:]


def lettering_names(layout: Layout) -> dict[str, str]:
    """What the letterings of a piece are called, by their ids."""
    lines: dict[str, list[Setting]] = {}
    for setting in layout.settings:
        lines.setdefault(setting.lettering.id, []).append(setting)
    return {one.id: _lettering_name(one, lines.get(one.id, [])) for one in layout.piece.letterings}


def _lettering_name(lettering: Lettering, lines: list[Setting]) -> str:
    """As it is called, or by the words that one sees."""
    if lettering.name.strip():
        return lettering.name.strip()
    labels = [label.text for line in lines for label in line.labels if label.text.strip()]
    spread = lettering.dial is not None and lettering.dial.labels.kind == "phrase"
    if lettering.dial is not None and not spread:
        if not labels:
            return "Ticks"
        return _short(labels[0] if len(labels) == 1 else f"{labels[0]} to {labels[-1]}")
    return _short(" ".join(lettering.text.split())) or "Marks"


def _short(words: str) -> str:
    if len(words) <= _MOST_WORDS:
        return words
    return words[:_MOST_WORDS].rsplit(" ", 1)[0] + " …"
