"""Words laid out on the straight: clusters, how wide each is, how far each moves the next.

This is where heights, tracking, word spaces and what was done by hand become lengths;
where the words stand on a guide is for `arrange` to say.
"""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Lengths, Scales
from ulvent.core.base.errors import wrong_field
from ulvent.core.faces import Cluster, Face, MissingCharacter
from ulvent.core.recipe import Lettering, Nudge
from ulvent.core.stances import STANCES

MOST_SET = 8000
"""The most letters that one lettering comes to by repeats or as the labels of a dial."""
_JOINING_SCRIPTS = {"ARABIC", "SYRIAC", "MONGOLIAN", "DEVANAGARI", "BENGALI", "GURMUKHI"}
"""Scripts whose letters join, by the first word of their characters' Unicode names."""


def refuse_many(field: str, letters: int, instead: str) -> None:
    """Refuse what would come to more letters than can be set, before they are.

    Raises
    ------
    PieceError
        Naming the field, the number, and what would do.
    """
    if letters > MOST_SET:
        reason = f"comes to {letters} letters; at most {MOST_SET} are set: {instead}"
        raise wrong_field(field, reason)


@dataclass(frozen=True, eq=False)
class Words:
    """A run of clusters on the straight. Arrays run over all clusters, inkless ones too.

    places
        (n,) where each starts in the lettering's words; -1 for a mark
    scales
        (n,) mm per font unit
    starts, extents
        (n,) where each begins and how much of the line it takes up, mm
    natural
        (n,) where each would begin as the face's designer spaced it, mm
    meant
        (n,) the same with tracking and word space, without what was done by hand
    along, across, turns
        (n,) what was done by hand: mm, mm, radians
    length
        from the first one's start to the last one's end, mm
    """

    clusters: tuple[Cluster, ...]
    missing: tuple[MissingCharacter, ...]
    places: Integers
    scales: Scales
    starts: Floats
    extents: Lengths
    natural: Floats
    meant: Floats
    along: Floats
    across: Floats
    turns: Floats
    length: float


def scale_of(lettering: Lettering, face: Face) -> float:
    """Mm per font unit at the lettering's height."""
    metrics = face.metrics
    measured = {
        "capital": metrics.cap_height,
        "x-height": metrics.x_height,
        "ascender": metrics.ascender - metrics.descender,
        "type": metrics.units_per_em,
    }
    return lettering.height / measured[lettering.measured]


def words_of(
    lettering: Lettering, face: Face, nudges: dict[int, Nudge], text: str, offset: int = 0
) -> Words:
    """`text`, which starts at `offset` in the lettering's words, laid out straight."""
    shaped = face.shape(text)
    places = [cluster.place + offset for cluster in shaped.clusters]
    missing = tuple(replace(one, index=one.index + offset) for one in shaped.missing)
    return _laid(lettering, face, shaped.clusters, missing, places, nudges)


def mark_words(lettering: Lettering, face: Face, cluster: Cluster) -> Words:
    """A mark as a run of its own."""
    return _laid(lettering, face, (cluster,), (), [-1], {})


def _laid(
    lettering: Lettering,
    face: Face,
    clusters: tuple[Cluster, ...],
    missing: tuple[MissingCharacter, ...],
    places: Sequence[int],
    nudges: dict[int, Nudge],
) -> Words:
    count = len(clusters)
    scale = scale_of(lettering, face)
    by_hand = _by_hand(clusters, places, nudges)
    scales = scale * by_hand.sizes
    advances = np.array([cluster.advance for cluster in clusters]) * scales
    extents = STANCES[lettering.shape].extents
    if extents is not None:
        advances = extents(face, clusters) * scales
    extra = np.full(count, lettering.tracking)
    if lettering.tracking and not lettering.spread_joined:
        extra[:-1][_joined(face, clusters)] = 0.0
    spaces = np.array([cluster.text.isspace() for cluster in clusters], dtype=bool)
    extra[spaces] += lettering.word_space
    natural = _summed(advances)
    meant = _summed(advances + extra)
    starts = _summed(advances + extra + by_hand.gaps)
    length = float(starts[-1] + advances[-1]) if count else 0.0
    return Words(
        clusters=clusters,
        missing=missing,
        places=np.array(places, dtype=int),
        scales=scales,
        starts=starts,
        extents=advances,
        natural=natural,
        meant=meant,
        along=by_hand.along,
        across=by_hand.across,
        turns=by_hand.turns,
        length=length,
    )


def _summed(steps: Floats) -> Floats:
    return np.concatenate([[0.0], np.cumsum(steps)])[: len(steps)]


def _joined(face: Face, clusters: tuple[Cluster, ...]) -> list[int]:
    """The clusters that run into the next one, as a joined script's letters do."""
    return [
        index
        for index, (one, two) in enumerate(zip(clusters, clusters[1:], strict=False))
        if join_each_other(face, one, two) and face.touching(one, two)
    ]


def join_each_other(face: Face, one: Cluster, two: Cluster) -> bool:
    """Whether two neighbours are letters that run into each other, as in a script."""
    return _joins(face, one) and _joins(face, two)


def _joins(face: Face, cluster: Cluster) -> bool:
    letter = cluster.text[:1]
    if not letter.isalpha():
        return False
    return face.joined or unicodedata.name(letter, "").split(" ")[0] in _JOINING_SCRIPTS


# --------------------------------------------------------------------- by hand


@dataclass(frozen=True, eq=False)
class _ByHand:
    along: Floats
    across: Floats
    turns: Floats
    sizes: Floats
    gaps: Lengths


def _by_hand(
    clusters: tuple[Cluster, ...], places: Sequence[int], nudges: dict[int, Nudge]
) -> _ByHand:
    """What was done to each cluster: the nudges of all letters that it stands for."""
    along, across, turns, gaps = np.zeros((4, len(clusters)))
    sizes = np.ones(len(clusters))
    if nudges:
        for index, (cluster, place) in enumerate(zip(clusters, places, strict=True)):
            for at in range(place, place + len(cluster.text)):
                nudge = nudges.get(at)
                if nudge is None or place < 0:
                    continue
                along[index] += nudge.along
                across[index] += nudge.across
                turns[index] += math.radians(nudge.turn)
                sizes[index] *= nudge.size
                gaps[index] += nudge.gap
    return _ByHand(along, across, turns, sizes, gaps)


# ---------------------------------------------------------------------- growth


def grown(words: Words, end_height: float, height: float) -> Words:
    """Words whose first letter is `height` high and whose last one `end_height`.

    Evenly along the line: dm/du = h(m) with h linear in m, so that a place u of the
    words at their first height lies at m = c (e^(ku) − 1)/k. A letter is as high as the mean of
    h over its width; k and c are those with which the first and the last are as asked.
    """
    inked = [
        index
        for index, one in enumerate(words.clusters)
        if (one.text.strip() or words.places[index] < 0) and words.extents[index] > 0.0
    ]
    if words.length <= 0.0 or end_height == height or not inked:
        return words
    wanted = math.log(end_height / height)
    first, last = (_mean_growth(words, index) for index in (inked[0], inked[-1]))
    apart = words.starts[inked[-1]] - words.starts[inked[0]]
    if apart <= 0.0:
        return growing(words, wanted / words.length)
    # Nearly linear in k: a few steps of Newton's with the slope of the straight part.
    k = wanted / apart
    for _ in range(_GROWTH_STEPS):
        k += (wanted - (last(k) - first(k))) / apart
    return growing(words, k, math.exp(-first(k)))


_GROWTH_STEPS = 60


def _mean_growth(words: Words, index: int) -> Callable[[float], float]:
    """The logarithm of how much larger a letter is, by how fast the words grow."""
    start, extent = float(words.starts[index]), float(words.extents[index])

    def grows(k: float) -> float:
        within = math.log(math.expm1(k * extent) / (k * extent)) if k else 0.0
        return k * start + within

    return grows


def growing(words: Words, k: float, first: float = 1.0) -> Words:
    """Words that grow by the share `k` a mm of their own unchanged length, from `first` on."""
    if k == 0.0:
        return words

    def along(u: Floats) -> Floats:
        grown: Floats = first * np.expm1(k * u) / k
        return grown

    return _mapped(words, along)


def scaled_each(words: Words, factors: Floats) -> Words:
    """Words of which each letter is made larger by a factor (n,) of its own; between letters all
    goes with the mean of both."""
    if not len(factors):
        return words
    wide = np.stack([words.starts, words.starts + words.extents], axis=1).ravel()
    shares = np.empty(len(wide) - 1)
    shares[0::2], shares[1::2] = factors, (factors[:-1] + factors[1:]) / 2.0
    places = np.concatenate([[0.0], np.cumsum(np.diff(wide) * shares)]) + wide[0] * factors[0]

    def along(u: Floats) -> Floats:
        before, after = np.minimum(u - wide[0], 0.0), np.maximum(u - wide[-1], 0.0)
        found: Floats = np.interp(u, wide, places) + before * factors[0] + after * factors[-1]
        return found

    return _mapped(words, along)


def _mapped(words: Words, along: Callable[[Floats], Floats]) -> Words:
    """Words whose places go to others; letters grow with the room that they take up."""
    starts = along(words.starts)
    extents = along(words.starts + words.extents) - starts
    wide = words.extents > 0.0
    return replace(
        words,
        scales=words.scales * np.where(wide, extents / np.where(wide, words.extents, 1.0), 1.0),
        starts=starts,
        extents=extents,
        natural=along(words.natural),
        meant=along(words.meant),
        length=float(along(np.array([words.length]))[0]),
    )


# --------------------------------------------------------- hand and changed words


def place_map(before: str, after: str) -> dict[int, int]:
    """Where each letter of `before` that still exists stands in `after`.

    What both have in common at their beginnings and ends stays; between, the longest
    stretches in common are taken for the same letters.
    """
    from difflib import SequenceMatcher

    if before == after:
        return {index: index for index in range(len(before))}
    shortest = min(len(before), len(after))
    head = next((i for i in range(shortest) if before[i] != after[i]), shortest)
    tail = next(
        (i for i in range(shortest - head) if before[-1 - i] != after[-1 - i]), shortest - head
    )
    found = {index: index for index in range(head)}
    found.update((len(before) - 1 - i, len(after) - 1 - i) for i in range(tail))
    middle = SequenceMatcher(
        None, before[head : len(before) - tail], after[head : len(after) - tail], autojunk=False
    )
    for match in middle.get_matching_blocks():
        for step in range(match.size):
            found[head + match.a + step] = head + match.b + step
    return found


def nudges_on(lettering: Lettering) -> dict[int, Nudge]:
    """What was done by hand, by the place that each letter has in the words as they are now."""
    if not lettering.hand:
        return {}
    now = place_map(lettering.hand_words, lettering.text)
    return {
        now[nudge.letter]: nudge.model_copy(update={"letter": now[nudge.letter]})
        for nudge in lettering.hand
        if nudge.letter in now
    }
