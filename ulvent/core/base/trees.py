"""Trees of points, for finding what is near: SciPy's, loaded when the first one is asked for.

SciPy takes longer to load than a piece takes to be measured, and most pieces need no tree.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from ulvent.core.base.arrays import Points

if TYPE_CHECKING:
    from scipy.spatial import cKDTree as PointTree

__all__ = ["PointTree", "point_tree"]


def point_tree(points: Points) -> PointTree:
    """The tree of points (n, 2)."""
    from scipy.spatial import cKDTree

    return cKDTree(points)
