"""Letters changed by hand while a row of the list fills their words: that row alone keeps it."""

from __future__ import annotations

from collections.abc import Sequence

from ulvent.core.acts.act import Act, lettering_of
from ulvent.core.acts.by_hand import HandAct
from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import Handwork, NameRow
from ulvent.core.series import Pattern


def is_of_row(acts: Sequence[Act], piece: Piece) -> bool:
    """Whether all of them are done to letters that a row of the piece's list brings."""
    by_hand = [act for act in acts if isinstance(act, HandAct)]
    if len(by_hand) < len(acts):
        return False
    filled = Pattern(piece).filled_letterings
    return all(act.lettering in filled for act in by_hand)


def hand_of_row(
    acts: Sequence[Act], piece: Piece, row: NameRow, filled: Piece
) -> dict[str, Handwork]:
    """What a row has by hand, by the ids of letterings.

    piece, filled
        without the words of the row; and with them, as the acts left it
    """
    hand = dict(row.hand)
    for name in {act.lettering for act in acts if isinstance(act, HandAct)}:
        changed = lettering_of(filled, name)
        if changed.hand or lettering_of(piece, name).hand:
            hand[name] = Handwork(letters=changed.hand, words=changed.hand_words)
        else:
            hand.pop(name, None)
    return hand
