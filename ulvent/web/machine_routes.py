"""Routes for machines and jobs: what is sent, how far it has come, and what came out."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, Field

from ulvent.bench import LATER, Bench
from ulvent.core.base.arrays import Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.recipe.lying import Bed
from ulvent.core.recipe.machine import Machine
from ulvent.core.runs.reach import out_of_reach
from ulvent.formats.program import Program, program_of
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.machines import FAULTS, BeamMachine, Done, Plotter
from ulvent.machines import Bed as SimulatedBed
from ulvent.sending import NotNowError, Sender
from ulvent.store.jobs import Job, Jobs, State
from ulvent.store.machine_records import Machines
from ulvent.web.problems import Problem
from ulvent.web.request_work import TheWork
from ulvent.web.shelf_routes import Shelf
from ulvent.web.simulated import Seen, SimulatedMachine

router = APIRouter(
    tags=["machines"],
    responses={status: {"model": Problem} for status in (403, 404, 409, 422, 503)},
)


class ShownMachine(BaseModel):
    """A machine to send to.

    allowed
        whether its address may be reached
    simulated
        whether it is one that ships with Ulvent
    busy
        the piece whose job it has
    """

    machine: Machine
    allowed: bool
    simulated: bool
    busy: UUID | None


class NewJob(BaseModel):
    """What is to be sent.

    revision
        the piece must be at: what was looked at is what is sent
    one_pass
        the number or id of the one pass that is sent; empty: all
    despite
        whether faults that are open are known and do not matter
    """

    piece_id: UUID
    revision: int
    one_pass: Annotated[str, Field(max_length=64)] = ""
    despite: bool = False


class TakenUp(BaseModel):
    """From which line of a job on it is taken up again, counted from 0.

    line
        as many as there are: nothing but how the run ends
    again
        whether lines that were sent already are to be sent again
    """

    line: Annotated[int, Field(ge=0)]
    again: bool = False


class ShownJob(BaseModel):
    """A job.

    lines, done
        how many lines there are, and how many the machine has answered for
    uncertain
        how many after those were sent, by this job or one that it follows, and not answered for:
        it is not known whether they were done
    length, seconds
        mm with the tool down and how long it takes, by the model, of all that is sent; and of what
        is done
    at
        what is being followed, in words
    """

    id: UUID
    machine: Machine
    piece_id: UUID
    title: str
    state: State
    active: bool
    reason: str
    lines: int
    done: int
    uncertain: int
    length: float
    length_done: float
    seconds: float
    seconds_done: float
    at: str
    made_at: datetime


class CameOut(BaseModel):
    """What came out of a simulated machine, held against what was sent.

    apart
        mm that the farthest place is from what was meant; none where nothing of one is there
    """

    meant: int
    done: int
    apart: float | None
    fault: str
    faults: dict[str, str]


class Fault(BaseModel):
    """What shall go wrong with a simulated machine; empty: nothing."""

    fault: str = ""
    after: Annotated[int, Field(ge=0, le=1_000_000)] = 0


def _machines(request: Request) -> Machines:
    found: Machines = request.app.state.machines
    return found


def _jobs(request: Request) -> Jobs:
    found: Jobs = request.app.state.jobs
    return found


def _sender(request: Request) -> Sender:
    found: Sender = request.app.state.sender
    return found


def _simulated(request: Request, machine_id: str) -> SimulatedMachine:
    found: dict[str, SimulatedMachine] = request.app.state.simulated
    if machine_id not in found:
        raise NotNowError("only simulated machines are looked at, and made to fail")
    return found[machine_id]


All = Annotated[Machines, Depends(_machines)]
Written = Annotated[Jobs, Depends(_jobs)]
Sending = Annotated[Sender, Depends(_sender)]
Simulated = Annotated[SimulatedMachine, Depends(_simulated)]


@router.get("/api/machines")
def machines(known: All, jobs: Written, sender: Sending) -> list[ShownMachine]:
    """All machines, the simulated ones last."""
    busy = jobs.busy()
    return [_shown_machine(one, known, busy, sender) for one in known.all()]


@router.put("/api/machines/{machine_id}")
def save_machine(
    known: All, jobs: Written, sender: Sending, machine_id: str, machine: Machine
) -> ShownMachine:
    """Add a machine, or change one."""
    if machine_id in known.simulated or machine.id != machine_id:
        raise NotNowError("a simulated machine stays as it is")
    return _shown_machine(known.save(machine), known, jobs.busy(), sender)


@router.delete("/api/machines/{machine_id}", status_code=204)
def delete_machine(known: All, machine_id: str) -> None:
    known.delete(machine_id)


@router.post("/api/machines/{machine_id}/jobs", status_code=201)
def send(
    known: All,
    pieces: Shelf,
    jobs: Written,
    sender: Sending,
    work: TheWork,
    machine_id: str,
    new: NewJob,
) -> ShownJob:
    """Begin to send a piece's run."""
    machine, stored = known.get(machine_id), pieces.get(new.piece_id)
    if stored.revision != new.revision:
        raise NotNowError("the piece was changed since; look at its run again")
    program, beyond, faults = work.done(
        _program, stored.piece, machine, new.one_pass, seconds=LATER, patient=True
    )
    if beyond:
        raise wrong_field("machine", "; ".join(beyond))
    if faults and not new.despite:
        raise wrong_field("despite", f"the proof has open faults: {'; '.join(faults)}")
    if not program.lines:
        raise NotNowError("nothing runs: there is nothing to send")
    begun = sender.begin(machine, new.piece_id, stored.piece.title, program)
    return _shown(jobs, begun)


@router.get("/api/jobs")
def latest_job(
    jobs: Written, piece: Annotated[UUID, Query(description="Whose.")]
) -> ShownJob | None:
    """The job of a piece that was begun last."""
    found = jobs.latest(piece)
    return _shown(jobs, found) if found else None


@router.post("/api/jobs/{job_id}/{wish}")
def wish(
    jobs: Written, sender: Sending, job_id: UUID, wish: Literal["hold", "go-on", "stop"]
) -> ShownJob:
    """What is wished of a job that is under way."""
    {"hold": sender.hold, "go-on": sender.go_on, "stop": sender.stop}[wish](job_id)
    return _shown(jobs, jobs.get(job_id))


@router.post("/api/jobs/{job_id}", status_code=201)
def take_up(jobs: Written, sender: Sending, job_id: UUID, taken: TakenUp) -> ShownJob:
    """Send a job that has ended again, from a line on."""
    job, program = jobs.get(job_id), jobs.program(job_id)
    if job.active:
        raise NotNowError("it is still being sent")
    if taken.line > program.lines:
        raise NotNowError(f"it has {program.lines} lines")
    step = program.step_of(taken.line)
    if taken.line < program.lines and step in _sent(jobs, job) and not taken.again:
        raise NotNowError("that line was sent already; say so if it is to be sent again")
    begun = sender.begin(job.machine, job.piece_id, job.title, program, step, job.id)
    return _shown(jobs, begun)


@router.get("/api/machines/{machine_id}/came-out")
def came_out(jobs: Written, simulated: Simulated, work: TheWork, machine_id: str) -> CameOut:
    """How far what came out of a simulated machine is from what was sent to it last."""
    return work.done(_came_out, simulated.seen(), *_last(jobs, machine_id))


@router.get("/api/machines/{machine_id}/picture", response_class=Response)
def bed_picture(jobs: Written, simulated: Simulated, work: TheWork, machine_id: str) -> Response:
    """The bed of a simulated machine: meant pale, done dark, wrong red (PNG)."""
    data = work.done(_picture, simulated.seen(), *_last(jobs, machine_id))
    return Response(data, media_type="image/png", headers={"Cache-Control": "no-store"})


@router.post("/api/machines/{machine_id}/fault", status_code=204)
def set_fault(simulated: Simulated, fault: Fault) -> None:
    """Have something go wrong with a simulated machine."""
    simulated.fail(fault.fault, fault.after)


@router.post("/api/machines/{machine_id}/sheet", status_code=204)
def fresh_sheet(simulated: Simulated) -> None:
    """Lay a fresh sheet on the bed of a simulated machine."""
    simulated.fresh_sheet()


def _program(
    bench: Bench, piece: Piece, machine: Machine, one_pass: str
) -> tuple[Program, tuple[str, ...], list[str]]:
    """What is sent, what the machine cannot do of it, and faults that are open."""
    work = bench.workshop.of(piece)
    run = work.run.only(one_pass) if one_pass else work.run
    blocks = RUN_FORMATS[machine.format].blocks
    assert blocks is not None
    program = program_of(run, machine.format, list(blocks(run)))
    faults = [finding.message for finding in work.proof.faults]
    return program, out_of_reach(run, machine), faults


def _sent(jobs: Jobs, job: Job) -> set[int]:
    """Steps that were begun to be sent, in a job or those that it follows."""
    sent: set[int] = set()
    at: Job | None = job
    while at is not None:
        sent.update(at.sequence[: at.begun])
        at = jobs.get(at.follows) if at.follows else None
    return sent


def _last(jobs: Jobs, machine_id: str) -> tuple[Bed, Program] | tuple[()]:
    """What was sent to a machine last, and the bed that it was for."""
    job = jobs.at_machine(machine_id)
    return (job.machine.bed, jobs.program(job.id)) if job else ()


def _came_out(_: Bench, seen: Seen, *last: Any) -> CameOut:
    from ulvent.machines.came_out import farthest_apart

    meant = _meant(*last)
    apart = farthest_apart(_points(meant), _points(seen.done))
    return CameOut(
        meant=len(meant),
        done=len(seen.done),
        apart=apart if meant and seen.done else None,
        fault=seen.fault,
        faults=dict(FAULTS),
    )


def _picture(_: Bench, seen: Seen, *last: Any) -> bytes:
    from ulvent.machines.came_out import picture

    bed = SimulatedBed(seen.width, seen.height, done=seen.done)
    return picture(bed, _points(_meant(*last)))


def _meant(bed: Bed | None = None, program: Program | None = None) -> list[Done]:
    """What would come out of a program if nothing went wrong."""
    if bed is None or program is None:
        return []
    simulated = SimulatedBed(bed.width, bed.height)
    steps = [step.words for step in program.steps if step.kind != "ask"]
    if program.format == "plt":
        Plotter(simulated).take("".join(steps).encode())
    else:
        machine = BeamMachine(simulated)
        for line in "".join(steps).splitlines():
            machine.take(line)
    return simulated.done


def _points(done: list[Done]) -> list[Points]:
    import numpy as np

    return [np.array(one.points) for one in done]


def _shown_machine(
    machine: Machine, known: Machines, busy: dict[str, UUID], sender: Sender
) -> ShownMachine:
    return ShownMachine(
        machine=machine,
        allowed=sender.may_reach(machine),
        simulated=machine.id in known.simulated,
        busy=busy.get(machine.id),
    )


def _shown(jobs: Jobs, job: Job) -> ShownJob:
    program = jobs.program(job.id)
    steps = [program.steps[index] for index in job.sequence]
    answered, before = steps[: job.answered], steps[: job.begun]
    begins = next((step.first for step in steps if step.last > step.first), program.lines)
    done = max((step.last for step in answered if step.last > step.first), default=begins)
    sent = [program.steps[index] for index in _sent(jobs, job)]
    return ShownJob(
        id=job.id,
        machine=job.machine,
        piece_id=job.piece_id,
        title=job.title,
        state=job.state,
        active=job.active,
        reason=job.reason,
        lines=program.lines,
        done=done,
        uncertain=sum(step.last - step.first for step in sent if step.first >= done),
        length=sum(step.length for step in steps),
        length_done=sum(step.length for step in answered),
        seconds=sum(step.seconds for step in steps),
        seconds_done=sum(step.seconds for step in answered),
        at=next((step.title for step in reversed(before) if step.last > step.first), ""),
        made_at=job.made_at,
    )
