"""Setting: lettering on a curve."""

from ulvent.core.setting.arrange import guide_station
from ulvent.core.setting.bends import TightStretch, tight_stretches
from ulvent.core.setting.corners import letter_corners
from ulvent.core.setting.gaps import Gaps
from ulvent.core.setting.lines import (
    USUAL_PITCH,
    fit_window,
    set_lettering,
)
from ulvent.core.setting.placing import baseline_curve
from ulvent.core.setting.setting import Setting
from ulvent.core.setting.standing import Standing
from ulvent.core.setting.words import nudges_on, place_map, scale_of

__all__ = [
    "USUAL_PITCH",
    "Gaps",
    "Setting",
    "Standing",
    "TightStretch",
    "baseline_curve",
    "fit_window",
    "guide_station",
    "letter_corners",
    "nudges_on",
    "place_map",
    "scale_of",
    "set_lettering",
    "tight_stretches",
]
