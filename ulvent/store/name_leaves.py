"""The rows of long lists, kept apart from the revisions of their pieces and shared by them all."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import NameLeaf, laid_apart
from ulvent.store.tables import NameLeafRow

Texts = Mapping[str, str]
"""What leaves hold, by their names."""


def document_of(session: Session, piece: Piece, texts: Texts) -> dict[str, Any]:
    """A piece as a revision has it; the rows of a long list are kept by themselves.

    texts
        of leaves that it names and that may not be kept yet

    Raises
    ------
    PieceError
        Where it names rows that are not kept here.
    """
    if piece.names is not None:
        names, more = laid_apart(piece.names)
        new = {**texts, **more}
        wanted = {one.leaf for one in names.leaves} - new.keys()
        # Whether they are there is all that is asked: a save need not read a long list.
        query = select(NameLeafRow.leaf).where(NameLeafRow.leaf.in_(wanted))
        _refuse_lacking(wanted, session.scalars(query) if wanted else ())
        if new:
            rows = [{"leaf": leaf, "rows": text} for leaf, text in sorted(new.items())]
            session.execute(insert(NameLeafRow).on_conflict_do_nothing(), rows)
        piece = piece.model_copy(update={"names": names})
    return piece.model_dump(mode="json")


def leaf_texts(session: Session, leaves: Iterable[NameLeaf]) -> dict[str, str]:
    """What leaves hold, by their names.

    Raises
    ------
    PieceError
        Where one is not kept here.
    """
    wanted = {one.leaf for one in leaves}
    query = select(NameLeafRow.leaf, NameLeafRow.rows).where(NameLeafRow.leaf.in_(wanted))
    found = dict(session.execute(query).all()) if wanted else {}
    _refuse_lacking(wanted, found)
    return found


def _refuse_lacking(wanted: set[str], found: Iterable[str]) -> None:
    if not wanted.issubset(found):
        raise wrong_field("names.rows", "some lie apart and are not kept here")
