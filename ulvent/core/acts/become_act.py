"""A guide of one kind become one of another that is as large; what stands on it stays on it."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import GuideAct
from ulvent.core.base.errors import wrong_field
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kinds import KINDS, AnyGuide, kind_of, parsed_guide
from ulvent.core.guides.scaling import real_figures
from ulvent.core.recipe import Piece

_ALIKE = ("turn", "start")
"""Fields of several kinds that mean the same in all of them."""
_OF_THE_OLD_LINE = ("seam", "part")


class Become(GuideAct):
    """A ring become an oval, a rectangle a soft square, a line an arch, and back."""

    act: Literal["become"]
    kind: str

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        guide = real_figures(guide)
        if self.kind not in becomes(guide):
            raise wrong_field("kind", f"a {kind_of(guide).title} cannot become “{self.kind}”")
        kind = KINDS[self.kind]
        now, then = kind_of(guide).extent, kind.extent
        assert now is not None
        assert then is not None
        shared = {
            name: getattr(guide, name)
            for name in (*GuideRecipe.model_fields, *_ALIKE)
            if name not in _OF_THE_OLD_LINE
            and hasattr(guide, name)
            and name in kind.recipe.model_fields
        }
        return parsed_guide({**shared, "kind": self.kind, **then.to(*now.of(guide))})


def becomes(guide: AnyGuide) -> list[str]:
    """The kinds that a guide can become."""
    extent = kind_of(guide).extent
    if extent is None or not extent.whole(guide):
        return []
    return [
        name
        for name, kind in KINDS.items()
        if name != guide.kind and kind.extent is not None and kind.extent.family == extent.family
    ]
