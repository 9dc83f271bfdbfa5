"""Which of a piece's passes work on something, and what of their width they give back."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ulvent.core.base.outputs import OutputOrNone
from ulvent.core.recipe import RunPass, RunSheet, Works
from ulvent.core.recipe.run_sheet import Kerf


def works_on(works: Iterable[Works], key: tuple[str, ...], output: OutputOrNone) -> bool:
    """Whether some of what a pass works on is a group of this key, of which that becomes."""
    for one in works:
        if one.what in ("draw", "engrave", "cut"):
            if one.what == output:
                return True
        elif key == ((one.what, one.of) if one.of else (one.what,)):
            return True
    return False


def kerfs_in_files(run: RunSheet | None, key: tuple[str, ...], output: OutputOrNone) -> Kerfs:
    """What a file of the whole piece gives back of a group: what the last pass on it does."""
    passes: Sequence[RunPass] = run.passes if run else ()
    last = [one for one in passes if one.on and works_on(one.works, key, output)]
    return last[-1].kerf if last else ()


def offset_of(kerfs: Kerfs, owner: str) -> float:
    """mm by which the letters and borders of a lettering are moved outward.

    owner
        the lettering; empty for all that were made one
    """
    mine = [kerf.offset for kerf in kerfs if kerf.of in (None, owner)]
    return mine[-1] if mine else 0.0


Kerfs = tuple[Kerf, ...]
