"""The machines that runs are sent to."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from ulvent.core.base.errors import UlventError
from ulvent.core.recipe.machine import Machine
from ulvent.store.kept_figures import forget, keep
from ulvent.store.tables import MachineRow


class NoSuchMachineError(UlventError):
    """There is no machine with this id."""


class Machines:
    """All machines of one database, and the simulated ones that were started with Ulvent."""

    def __init__(self, engine: Engine, simulated: Sequence[Machine] = ()) -> None:
        self._engine = engine
        self.simulated = {one.id: one for one in simulated}

    def all(self) -> list[Machine]:
        """By name, the simulated ones last."""
        with Session(self._engine) as session:
            rows = session.scalars(select(MachineRow))
            own = [Machine.model_validate(row.figures) for row in rows]
        own = [one for one in own if one.id not in self.simulated]
        return [*sorted(own, key=lambda one: one.name.lower()), *self.simulated.values()]

    def get(self, machine_id: str) -> Machine:
        found = next((one for one in self.all() if one.id == machine_id), None)
        if found is None:
            raise NoSuchMachineError("there is no such machine")
        return found

    def save(self, machine: Machine) -> Machine:
        keep(self._engine, MachineRow, machine.id, machine)
        return machine

    def delete(self, machine_id: str) -> None:
        """Forget a machine; what was sent to it stays written down."""
        forget(self._engine, MachineRow, machine_id)
