"""Setting: lettering on a curve."""

from ulvent.core.setting.gaps.gap import Gaps
from ulvent.core.setting.letters.corners import letter_corners
from ulvent.core.setting.letters.words import nudges_on, place_map, scale_of
from ulvent.core.setting.lines.lines import set_lettering
from ulvent.core.setting.lines.one_line import fit_window
from ulvent.core.setting.rows.arrange import guide_station
from ulvent.core.setting.rows.bends import TightStretch, tight_stretches
from ulvent.core.setting.rows.placing import baseline_curve
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing

__all__ = [
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
