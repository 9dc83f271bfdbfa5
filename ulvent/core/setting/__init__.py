"""Setting: lettering on a curve."""

from ulvent.core.setting.bends import TightStretch, tight_stretches
from ulvent.core.setting.corners import letter_corners
from ulvent.core.setting.gaps import Gaps
from ulvent.core.setting.setting import Setting, baseline_curve, set_lettering

__all__ = [
    "Gaps",
    "Setting",
    "TightStretch",
    "baseline_curve",
    "letter_corners",
    "set_lettering",
    "tight_stretches",
]
