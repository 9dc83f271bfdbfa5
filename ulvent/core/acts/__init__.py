"""Acts: what a person does to a piece by hand, one a module.

A new act is a new module here, with its class.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field, ValidationError

from ulvent.core.acts.act import Act, Done, LetteringAct, Made
from ulvent.core.base.errors import FaceError, wrong_field
from ulvent.core.base.register import found_classes
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece, checked

ACTS: dict[str, type[Act]] = {
    one.model_fields["act"].annotation.__args__[0]: one  # type: ignore[union-attr]
    for one in found_classes(__name__, Act)
}
"""All acts by their names."""

if TYPE_CHECKING:
    AnyAct = Act
else:
    AnyAct = Annotated[Union[tuple(ACTS.values())], Field(discriminator="act")]  # noqa: UP007


def perform_all(acts: Sequence[Act], piece: Piece, faces: FaceNamed) -> Done:
    """What acts make of a piece one after another, as one change; errors as for one of them."""
    made: list[Made] = []
    said: list[str] = []
    for act in acts:
        done = perform(act, piece, faces)
        piece = done.piece
        made += done.made
        said += [done.said] if done.said else []
    return Done(piece, tuple(made), "; ".join(said))


def perform(act: Act, piece: Piece, faces: FaceNamed) -> Done:
    """What an act makes of a piece, held against the document's rules like what is typed.

    What is done by hand starts from what is seen: what the piece's fits came to has to be in
    its figures.

    Raises
    ------
    PieceError
        When the act names what is not there, cannot be done, or would make what a piece
        may not hold.
    """
    try:
        done = act.perform(piece, faces)
    except ValidationError as error:
        field = "lettering" if isinstance(act, LetteringAct) else "guide"
        reason = error.errors()[0]["msg"]
        raise wrong_field(field, f"this would make what a piece may not hold: {reason}") from error
    except FaceError as error:
        raise wrong_field("face", str(error)) from error
    return Done(checked(done.piece, piece), done.made, done.said)


__all__ = ["ACTS", "Act", "AnyAct", "Done", "Made", "perform", "perform_all"]
