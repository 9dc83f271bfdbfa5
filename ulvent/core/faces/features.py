"""Which OpenType features of a face are a maker's to choose, and what they are called.

Features that shaping needs (`ccmp`, `init`, `mark` and the like) are the shaper's own.
Names are those of the OpenType specification's registry, in plain words.
"""

from __future__ import annotations

from fontTools.ttLib import TTFont

from ulvent.core.faces.face import FeatureChoice

_NAMES = {
    "smcp": "small capitals",
    "c2sc": "small capitals for capitals",
    "case": "forms beside capitals",
    "lnum": "lining figures",
    "onum": "old-style figures",
    "pnum": "proportional figures",
    "tnum": "tabular figures",
    "zero": "slashed zero",
    "frac": "fractions",
    "ordn": "ordinals",
    "sups": "superior letters",
    "liga": "ligatures",
    "dlig": "discretionary ligatures",
    "hlig": "historical ligatures",
    "clig": "contextual ligatures",
    "calt": "contextual alternates",
    "salt": "alternates",
    "swsh": "swashes",
    "titl": "titling capitals",
    "kern": "kerning",
}


def feature_choices(table: TTFont) -> tuple[FeatureChoice, ...]:
    """The features that a file offers, in the order in which they are named above."""
    tags: set[str] = set()
    for name in ("GSUB", "GPOS"):
        layout = getattr(table.get(name), "table", None)
        records = getattr(getattr(layout, "FeatureList", None), "FeatureRecord", None) or []
        tags.update(record.FeatureTag for record in records)
    found = [FeatureChoice(tag, name) for tag, name in _NAMES.items() if tag in tags]
    sets = sorted(tag for tag in tags if tag[:2] == "ss" and tag[2:].isdigit())
    return (*found, *(FeatureChoice(tag, f"stylistic set {int(tag[2:])}") for tag in sets))
