"""Which OpenType features of a face are a maker's to choose, and what they are called.

Features that shaping needs (`ccmp`, `init`, `mark` and the like) are the shaper's own.
Names are those of the OpenType specification's registry, in plain words.
"""

from __future__ import annotations

import uharfbuzz as harfbuzz

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

USUAL_FEATURES = ("kern", "liga", "clig", "calt")
"""Features that are on where nothing is said of them (OpenType Layout tag registry)."""


def feature_choices(face: harfbuzz.Face) -> tuple[FeatureChoice, ...]:
    """The features that a file offers in any script, in the order in which they are named above."""
    tags: set[str] = set()
    for table in ("GSUB", "GPOS"):
        scripts = face.get_table_script_tags(table)
        for index in range(len(scripts)):
            tags.update(face.get_language_feature_tags(table, index))
    found = [
        FeatureChoice(tag, name, tag in USUAL_FEATURES)
        for tag, name in _NAMES.items()
        if tag in tags
    ]
    sets = sorted(tag for tag in tags if tag[:2] == "ss" and tag[2:].isdigit())
    return (*found, *(FeatureChoice(tag, f"stylistic set {int(tag[2:])}") for tag in sets))
