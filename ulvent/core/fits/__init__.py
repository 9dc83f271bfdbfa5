"""Fits: figures of lettering and guides that are solved from a condition, not typed.

A fit is data. It is solved again whenever words, face or guide change; where it has no exact
answer, the nearest one stands and is said to.
"""

from ulvent.core.fits.alone import as_figures, set_fitted
from ulvent.core.fits.guide_sizes import contradicted, sized_guide
from ulvent.core.fits.heights import fit_heights, with_height
from ulvent.core.fits.root import Root, root
from ulvent.core.fits.trials import Settings, Tried
from ulvent.core.fits.turns_apart import nearer_on_turns

__all__ = [
    "Root",
    "Settings",
    "Tried",
    "as_figures",
    "contradicted",
    "fit_heights",
    "nearer_on_turns",
    "root",
    "set_fitted",
    "sized_guide",
    "with_height",
]
