"""The proof: what is wrong with a piece, with place, figure, limit and remedy."""

from ulvent.core.proof.check import Check, OtherFaces
from ulvent.core.proof.checks import CHECKS
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.material import Material, Part, material, sheet_of
from ulvent.core.proof.proof import (
    Proof,
    prove,
    prove_layout,
    tried_remedies,
)
from ulvent.core.proof.remedy import Remedy

__all__ = [
    "CHECKS",
    "Check",
    "Finding",
    "Material",
    "OtherFaces",
    "Part",
    "Proof",
    "Remedy",
    "material",
    "prove",
    "prove_layout",
    "sheet_of",
    "tried_remedies",
]
