"""The proof: what is wrong with a piece, with place, figure, limit and remedy."""

from ulvent.core.proof.findings import Finding, prove

__all__ = ["Finding", "prove"]
