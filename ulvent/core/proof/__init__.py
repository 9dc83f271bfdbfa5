"""The proof: what is wrong with a piece, with place, figure, limit and remedy."""

from ulvent.core.proof.finding import Finding
from ulvent.core.proof.findings import OtherFaces, prove
from ulvent.core.proof.material import Material, Part, material, sheet_of
from ulvent.core.proof.proof import Proof, proof_of
from ulvent.core.proof.remedies import Remedy, overflow_remedies

__all__ = [
    "Finding",
    "Material",
    "OtherFaces",
    "Part",
    "Proof",
    "Remedy",
    "material",
    "overflow_remedies",
    "proof_of",
    "prove",
    "sheet_of",
]
