"""Documents of before: what they say is said as it is said now, and comes to the same."""

from __future__ import annotations

from typing import Any

from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.base.tools import TOOLS, usual_tools


def as_said_now(document: Any) -> Any:
    """A document in which kerf, once a step of preparing, belongs to the passes that make it.

    What is not as it was is left alone: it is said where it is read.
    """
    if not isinstance(document, dict):
        return document
    kerfs: list[dict[str, Any]] = []
    changed = dict(document)
    if isinstance(letterings := document.get("letterings"), list):
        changed["letterings"] = [_taken(one, _id_of(one), kerfs) for one in letterings]
    changed = _taken(changed, "", kerfs)
    if not kerfs:
        return changed
    run = changed.get("run")
    run = dict(run) if isinstance(run, dict) else {}
    passes = run.get("passes") or _plain_passes(document)
    if isinstance(passes, list) and all(isinstance(one, dict) for one in passes):
        # Every tool went the same way: the lines were moved before there were passes.
        run["passes"] = [{**one, "kerf": [*one.get("kerf", ()), *kerfs]} for one in passes]
    return {**changed, "run": run}


def _taken(owner: Any, of: Any, kerfs: list[dict[str, Any]]) -> Any:
    """A lettering, or a piece, without the kerf that it had."""
    recipe = owner.get("prepare") if isinstance(owner, dict) else None
    if not isinstance(recipe, dict) or "kerf" not in recipe:
        return owner
    kerf = recipe["kerf"]
    if isinstance(kerf, dict):
        kerfs.append({**kerf, "of": of})
    elif kerf is not None:
        return owner
    kept = {name: value for name, value in recipe.items() if name != "kerf"}
    return {**owner, "prepare": kept}


def _id_of(lettering: Any) -> Any:
    return lettering.get("id") if isinstance(lettering, dict) else None


def _plain_passes(document: dict[str, Any]) -> list[dict[str, Any]]:
    """What a piece that said nothing ran: what is drawn, then engraved, then cut."""
    sheets = document.get("tool_sheets")
    first = sheets[0] if isinstance(sheets, list) and sheets else None
    tool = first.get("tool") if isinstance(first, dict) else None
    tools = usual_tools(tool if isinstance(tool, str) and tool in TOOLS else None)
    return [
        {
            "id": output,
            "name": output.capitalize(),
            "tool": tools[output],
            "works": [{"what": output}],
        }
        for output in OUTPUTS
    ]
