"""Letters follow the curve with their outlines."""

from ulvent.core.stances.bending import bent_outlines
from ulvent.core.stances.stance import Stance

STANCE = Stance("bent", "bent", 20, bending=bent_outlines)
