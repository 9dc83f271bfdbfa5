"""The proof: what is wrong with a piece, with place, figure, limit and remedy."""

from ulvent.core.proof.findings import Finding, OtherFaces, prove
from ulvent.core.proof.remedies import Remedy, overflow_remedies

__all__ = ["Finding", "OtherFaces", "Remedy", "overflow_remedies", "prove"]
