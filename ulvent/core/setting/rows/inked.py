"""The letters of a row that have ink, before they are spaced."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Lengths, Scales, Stations
from ulvent.core.faces import Cluster, Face
from ulvent.core.setting.rows.arrange import Row


@dataclass(frozen=True, eq=False)
class InkedLetters:
    """The letters of a row that have ink. Arrays run over them, (n,); see `Words`.

    runs
        which run each belongs to
    begins
        where each begins on the baseline, pushes included, mm
    pushes
        how far each was pushed along the baseline to keep off a corner, mm
    """

    clusters: tuple[Cluster, ...]
    places: Integers
    runs: Integers
    begins: Floats
    pushes: Lengths
    extents: Lengths
    scales: Scales
    starts: Floats
    natural: Floats
    meant: Floats
    along: Floats
    across: Floats
    turns: Floats

    @property
    def middles(self) -> Stations:
        """Stations of their middles, mm."""
        return self.begins + self.extents / 2.0

    @classmethod
    def of(cls, row: Row, inked: Booleans, pushes: Lengths) -> InkedLetters:
        """Those of all letters of a row that are `inked`."""
        clusters = [cluster for words in row.runs for cluster in words.clusters]
        counts = [len(words.clusters) for words in row.runs]

        def joined(name: str) -> Floats:
            return _joined(getattr(words, name) for words in row.runs)[inked]

        return cls(
            clusters=tuple(c for c, wanted in zip(clusters, inked, strict=True) if wanted),
            places=joined("places").astype(int),
            runs=np.repeat(np.arange(len(counts)), counts)[inked],
            begins=(row_begins(row) + pushes)[inked],
            pushes=pushes[inked],
            **{
                name: joined(name)
                for name in (
                    "extents", "scales", "starts", "natural", "meant", "along", "across", "turns"
                )
            },
        )  # fmt: skip


def row_begins(row: Row) -> Floats:
    """Where each letter of a row begins, those without ink too, mm."""
    return _joined(words.starts + at for words, at in zip(row.runs, row.begins, strict=True))


def row_extents(row: Row) -> Floats:
    """What each letter of a row takes up, those without ink too, mm."""
    return _joined(words.extents for words in row.runs)


def which_are_inked(row: Row, face: Face) -> Booleans:
    """Which letters of a row have ink."""
    inked = [bool(face.cluster_outline(c.glyphs)) for words in row.runs for c in words.clusters]
    return np.array(inked, dtype=bool)


def _joined(arrays: Iterable[Floats]) -> Floats:
    parts = list(arrays)
    return np.concatenate(parts) if parts else np.empty(0)
