"""Letters keep their shape, each turned to the curve under its middle."""

from ulvent.core.stances.stance import Stance

STANCE = Stance("rigid", "as they are", 10)
