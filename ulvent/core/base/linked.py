"""Things that hang together, by pairs of them."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Integers


def joined_groups(one: Integers, two: Integers, size: int) -> Integers:
    """(size,) the number of the group that each thing is in, where pairs (k,) of them are joined;
    one without any is a group by itself."""
    # Imported when it is needed: SciPy would double the start of the command line.
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    joined = coo_array((np.ones(len(one)), (one, two)), shape=(size, size))
    found: Integers = connected_components(joined, directed=False)[1]
    return found
