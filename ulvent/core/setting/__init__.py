"""Setting: lettering on a curve."""

from ulvent.core.setting.gaps import Gaps
from ulvent.core.setting.setting import Setting, baseline_curve, set_lettering

__all__ = ["Gaps", "Setting", "baseline_curve", "set_lettering"]
