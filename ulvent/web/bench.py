"""What the running application works with: its faces, and its workshop over them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request

from ulvent.core.workshop import Workshop
from ulvent.web.type_case import TypeCase


@dataclass(frozen=True)
class Bench:
    """The type case and the workshop of the running application."""

    case: TypeCase
    workshop: Workshop

    def forget(self, face_id: str) -> None:
        """Read a face anew, and lay out anew what may be set in it: it has come or gone."""
        self.case.forget(face_id)
        self.workshop.forget()


def the_bench(request: Request) -> Bench:
    bench: Bench = request.app.state.bench
    return bench


TheBench = Annotated[Bench, Depends(the_bench)]
