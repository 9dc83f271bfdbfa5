"""The named tolerances of the whole core. There are no other magic epsilons."""

from __future__ import annotations

import math

FITTING = 0.01
"""Largest distance, mm, between a curve and another fitted to it."""

DRAWING = 0.001
"""Largest distance, mm, between a guide and the cubics that are drawn or written for it."""

ARC_LENGTH = 1e-9
"""Largest relative error of an arc length or of its inverse."""

QUADRATURE = 1e-12
"""Relative error at which a panel of an arc-length integral is accepted; well
below `ARC_LENGTH`, so that sums over panels stay inside it."""

JOINT = 1e-6
"""Largest gap, mm, between two pieces of a chain that still count as joined."""

SAME = 1e-9
"""Largest distance, mm, between points that count as one, and between a line and straight."""

ROUNDING = 1e-9
"""What rounding may add to a figure that is held against a limit, or counted in whole ones."""

NIL = 1e-12
"""What is less counts as nothing, so that it is never divided by."""

GAP = 1e-9
"""By how much an evenly spaced gap may miss its target, mm: fits are solved over it."""

GAP_IN_HAND = 1e-4
"""The same while a piece is pulled about and only looked at."""

FIT_IN_HAND = 1e-4
"""How much room fits may leave over, mm, while a piece is pulled about."""

GAP_OF_FIT_IN_HAND = 1e-6
"""By how much a gap may miss its target then, mm, where a fit is solved over it."""

CORNER = math.radians(1e-4)
"""Smallest turn of the tangent at a joint, radians, that counts as a corner."""

LETTER_CORNER = math.radians(10.0)
"""Smallest turn at a joint, radians, that lettering takes for a corner: less than
that is how a polyline stands for a curve."""

DENSE = 0.00025
"""Largest distance, mm, between a curve and the chords that a region has in its place."""

SMOOTH_TURN = math.radians(4.0)
"""Largest turn, radians, from one chord of a curve to the next in a region."""

SHARP_TURN = math.radians(8.0)
"""A turn in a region from which on it is a corner: the bisector of a joint, and then some."""

LONG_CHORD = 0.25
"""Longest chord of a curve, mm; what is longer in a region is straight."""
