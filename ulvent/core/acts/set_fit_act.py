"""A figure of a lettering, or of its guide, solved from now on; or as it was typed before."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import ValidationError

from ulvent.core.acts.act import Act, Done, guide_of, lettering_of, with_guide, with_lettering
from ulvent.core.base.errors import wrong_field
from ulvent.core.fits import with_height
from ulvent.core.fits.filling_gap import gap_limits
from ulvent.core.fits.offered import KINDS_OF_FIT
from ulvent.core.guides.kinds import AnyGuide, kind_of
from ulvent.core.guides.scaling import real_figures
from ulvent.core.layout import FaceNamed, lay_out
from ulvent.core.recipe import Fit, Lettering, Piece

if TYPE_CHECKING:
    FitKind = str
else:
    FitKind = Literal[KINDS_OF_FIT]

_FIGURES = ("height", "end_height", "tracking", "width")


class SetFit(Act):
    """A figure solved from now on; with no kind, all figures as they were typed before the fit."""

    act: Literal["set-fit"]
    lettering: str
    kind: FitKind | None = None

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        lettering = lettering_of(piece, self.lettering)
        guide = guide_of(piece, lettering.guide)
        before = lettering.fit
        if before is not None:
            # What that fit has solved is not what was typed.
            lettering, typed = _as_typed(lettering, before), _guide_as_typed(guide, before)
            piece = with_guide(with_lettering(piece, lettering), guide, typed)
            guide = typed
        if self.kind is None:
            return Done(piece)
        fit = _begun(lettering, guide, self.kind, before)
        if self.kind == "gap":
            fit = _limited(fit, piece, lettering, faces)
        return Done(with_lettering(piece, lettering.model_copy(update={"fit": fit})))


def _begun(lettering: Lettering, guide: AnyGuide, kind: str, before: Fit | None) -> Fit:
    typed = {field: getattr(lettering, field) for field in _FIGURES}
    if lettering.repeat is not None:
        typed |= {"times": lettering.repeat.times, "pitch": lettering.repeat.pitch}
    own = {field: getattr(guide, field) for field in (*kind_of(guide).sized_by, "scaled")}
    margin = before.margin if before else 0.0
    try:
        return Fit(kind=kind, margin=margin, typed=typed, typed_guide=own)
    except ValidationError as error:
        raise wrong_field("kind", f"{kind} does not go together with this lettering") from error


def _limited(fit: Fit, piece: Piece, lettering: Lettering, faces: FaceNamed) -> Fit:
    """A fit of the gap with limits to begin with, and words that stay apart over the seam."""
    (line, *_) = lay_out(piece, faces).lines_of(lettering.id)
    least, most = gap_limits(line)
    several = len(lettering.text.split()) > 1
    seam = "word" if several and line.guide.closed else "letter"
    # One word stays a word however wide it is spread.
    limits = {"least": least, "most": most if several else None}
    return fit.model_copy(update={**limits, "seam": seam})


def _as_typed(lettering: Lettering, fit: Fit) -> Lettering:
    """The lettering without its fit, its figures as they were typed before it."""
    typed = dict(fit.typed)
    height = typed.pop("height", None)
    if height is not None:
        lettering = with_height(lettering, height)
    if lettering.repeat is not None and "times" in typed:
        times = typed["times"]
        again = {"times": times and int(times), "pitch": typed.get("pitch")}
        repeat = lettering.repeat.model_copy(update=again)
        lettering = lettering.model_copy(update={"repeat": repeat})
    kept = {field: value for field, value in typed.items() if field in _FIGURES}
    return lettering.model_copy(update={**kept, "fit": None})


def _guide_as_typed(guide: AnyGuide, fit: Fit) -> AnyGuide:
    sizes = (*kind_of(guide).sized_by, "scaled")
    typed = {field: value for field, value in fit.typed_guide.items() if field in sizes}
    return real_figures(guide.model_copy(update=typed)) if fit.kind == "guide" else guide
