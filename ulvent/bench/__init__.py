"""What is computed away from who asks for it: the bench in each worker, and the hands at it."""

from ulvent.bench.bench import LATER, ROOM, SOON, Bench, Hands

__all__ = ["LATER", "ROOM", "SOON", "Bench", "Hands"]
