"""A drag over the live channel: from the pointer's move to the letters set, and painted.

    .venv/bin/python -m benchmarks.dragging

The real server, a real PostgreSQL and the built front end in headless Chromium
(software rendering): a lettering slid along its ring, and a point pulled on a drawn
guide, by the face's spacing and with even gaps. 200 moves are dispatched at 60 Hz.

*Together*: each move is timed from its event to the letters set by an answer to it or to a
later move, and to the first frame painted with them. Server, page, rasteriser and driver share
the machine's cores, and so does whatever else runs on it.

*By parts*: what a quiet machine would do. The answers are asked for one after the other by a
plain client, and timed from sending to receiving; they are then played back to the page, which
is timed from the pointer's event to the letters set, styled and laid out. So nothing of ours
competes; and each part is done five times over, each time pulled a little farther so that nothing
is remembered, of which the least counts for each move: what else runs on the machine is left
out, what one move costs more than another is not. The two times of each move are added up.

The number of letters is doubled until fewer than 95 % of the moves have set them within one
60 Hz frame by parts.
"""

from __future__ import annotations

import json
import math
import re
import time
import urllib.request
from typing import Any

import numpy as np
from playwright.sync_api import Page, sync_playwright
from websockets.sync.client import connect
from websockets.typing import Origin

from tests.browser.chromium import EXECUTABLE, OPTIONS
from tests.running import RunningUlvent, remove, temporary_folder

MOVES = 200
FRAME_MS = 1000 / 60
WANTED = 0.95
LEAST_LETTERS, MOST_LETTERS = 30, 1920
PASSES = 5
POINTS = 40
WORDS = "QUILLMEREORCHARDAUTUMNFAIRPRESSEDBYHANDINTHEOLDBARNNEARLOWER"

# Wraps the socket before the page's own scripts run: which move a request held, and
# when its answer had been painted (the task after the frame that follows it).
WATCH = """
window.bench = { moved: 0, asked: new Map(), set: [], painted: [], sent: null, take: null };
const Native = window.WebSocket;
window.WebSocket = class extends Native {
  send(text) {
    bench.asked.set(JSON.parse(text).sequence, bench.moved);
    // While answers are played back nothing leaves the page.
    if (bench.sent) bench.sent.push(text);
    else super.send(text);
  }
  set onmessage(take) {
    bench.take = take;
    super.onmessage = (event) => {
      const sequence = JSON.parse(event.data.slice(0, 40).split(',')[0] + '}').sequence;
      take(event);
      const move = bench.asked.get(sequence);
      // What the answer changes is flushed in a microtask of its own.
      queueMicrotask(() => queueMicrotask(() => bench.set.push([move, performance.now()])));
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => bench.painted.push([move, performance.now()]);
        channel.port2.postMessage(0);
      });
    };
  }
};
"""

# Part of the same script: a pointer that goes round what it has hold of.
POINTER = """
bench.pointer = (grip, radius) => {
  const target = document.querySelector(
    grip ? `[data-grip="${grip}"]` : 'main [data-lettering] .letters path');
  const svg = grip ? target : target.ownerSVGElement;
  const box = target.getBoundingClientRect();
  const whole = target.ownerSVGElement.getBoundingClientRect();
  const [cx, cy] = grip
    ? [box.left + box.width / 2, box.top + box.height / 2 + radius]
    : [whole.left + whole.width / 2, whole.top + whole.height / 2];
  const step = grip ? 0.03 : 0.004;
  svg.setPointerCapture = () => {};
  const fire = (type, move, on) => on.dispatchEvent(new PointerEvent(type, {
    clientX: cx + radius * Math.sin(step * move), clientY: cy - radius * Math.cos(step * move),
    bubbles: true, pointerId: 1, button: 0, isPrimary: true }));
  return {
    down: () => fire('pointerdown', 0, target),
    move: (move) => fire('pointermove', move, svg),
    up: (move) => fire('pointerup', move, svg),
  };
};
"""

DRAG = """
async ([moves, grip, radius]) => {
  const pointer = bench.pointer(grip, radius);
  pointer.down();
  const times = [];
  await new Promise((done) => {
    const timer = setInterval(() => {
      if (times.length === moves) { clearInterval(timer); setTimeout(done, 500); return; }
      bench.moved = times.length + 1;
      times.push(performance.now());
      pointer.move(times.length);
    }, 1000 / 60);
  });
  pointer.up(moves);
  return { times, set: bench.set, painted: bench.painted };
}
"""

# The requests of a drag, none of which is answered.
ASK = """
([moves, grip, radius]) => {
  const pointer = bench.pointer(grip, radius);
  bench.sent = [];
  pointer.down();
  for (let move = 1; move <= moves; move += 1) pointer.move(move);
  const sent = bench.sent.slice(-moves);
  pointer.up(moves);
  return sent;
}
"""

PLAY_BACK = """
async ([answers, grip, radius]) => {
  const pointer = bench.pointer(grip, radius);
  bench.sent = [];
  pointer.down();
  const took = [];
  for (const [index, answer] of answers.entries()) {
    await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
    const begun = performance.now();
    pointer.move(index + 1);
    const { sequence } = JSON.parse(bench.sent.at(-1));
    bench.take({ data: answer.replace(/"sequence":\\d+/, `"sequence":${sequence}`) });
    await null; await null; await null;
    document.body.getBoundingClientRect();
    took.push(performance.now() - begun);
  }
  return took;
}
"""


def main() -> None:
    folder = temporary_folder()
    running = RunningUlvent(folder, "--empty", "--port", "0").wait_until_ready()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script(WATCH + POINTER)
            print(f"{MOVES} moves; ms from move to letters set, and painted: median, p95, "
                  "over a frame")  # fmt: skip
            for name, piece, grip in (
                ("a lettering slid along a ring", _ring, None),
                (f"a point pulled on a drawn guide of {POINTS}", _drawn, f"node:{POINTS // 2}"),
                ("the same, with even gaps", _even, f"node:{POINTS // 2}"),
                ("a lettering slid along a wave, with even gaps", _wave, None),
            ):
                print(f"\n{name}\n letters   by parts: answer, page, both              "
                      "together: set, painted")  # fmt: skip
                letters = LEAST_LETTERS
                while letters <= MOST_LETTERS:
                    address = _opened(page, running.address, piece(letters), grip)
                    answered, shown = np.full((2, MOVES), np.inf)
                    for again in range(PASSES):
                        pull = [MOVES, grip, (40 if grip else 180) + 0.3 * again]
                        sent = page.evaluate(ASK, pull)
                        took, answers = _answered(running.address, sent)
                        answered = np.minimum(answered, took)
                        page.goto(address)
                        _taken_hold_of(page, grip)
                        played = page.evaluate(PLAY_BACK, [answers, *pull[1:]])
                        shown = np.minimum(shown, played)
                        page.goto(address)
                        _taken_hold_of(page, grip)
                    placed, painted = _drag(page, grip)
                    both = answered + shown
                    print(f"{letters:8d} {_said(answered)} {_said(shown)} {_said(both)}"
                          f"   {_said(placed)} {_said(painted)}")  # fmt: skip
                    if _over(both) > 1 - WANTED:
                        break
                    letters *= 2
            browser.close()
    finally:
        running.stop()
        remove(folder)


def _ring(letters: int) -> dict[str, Any]:
    """Letters on a ring that they fill to a third."""
    guide = {"id": "g", "kind": "circle", "diameter": 7.0 * letters, "start": 180}
    return _piece(guide, letters, at=0.25, at_in="share", align="centre")


def _drawn(letters: int) -> dict[str, Any]:
    """Letters along a drawn line of many points."""
    step = 9.0 * letters / POINTS
    nodes = [{"at": [step * i, 0.8 * step * math.sin(1.1 * i)]} for i in range(POINTS)]
    return _piece({"id": "g", "kind": "drawn", "nodes": nodes}, letters, at=2)


def _even(letters: int) -> dict[str, Any]:
    """Letters that the bends of the drawn line leave room for."""
    piece = _drawn(letters)
    piece["letterings"][0] |= {"spacing": "even", "height": 6}
    return piece


def _wave(letters: int) -> dict[str, Any]:
    waves = max(2.0, letters / 12)
    guide = {"id": "g", "kind": "wave", "length": 120, "height": 30, "waves": waves}
    piece = _piece(guide, letters, at=0.5, at_in="share", align="centre")
    piece["letterings"][0] |= {"spacing": "even", "height": 6}
    return piece


def _piece(guide: dict[str, Any], letters: int, **place: Any) -> dict[str, Any]:
    text = (WORDS * (letters // len(WORDS) + 1))[:letters]
    lettering = {"id": "x", "guide": "g", "text": text, "face": "lato-bold", "height": 10}
    return {"ulvent": 1, "guides": [guide], "letterings": [{**lettering, **place}]}


def _opened(page: Page, address: str, piece: dict[str, Any], grip: str | None) -> str:
    """Make a piece, show it, and take hold of it; its address."""
    request = urllib.request.Request(
        address + "/api/pieces",
        json.dumps({"piece": piece}).encode(),
        {"Content-Type": "application/json"},
    )
    with urllib.request.urlopen(request) as answer:
        made = json.load(answer)
    shown = f"{address}/pieces/{made['id']}"
    page.goto(shown)
    _taken_hold_of(page, grip)
    return shown


def _taken_hold_of(page: Page, grip: str | None) -> None:
    page.wait_for_selector("main [data-lettering] .letters path")
    if grip:
        page.get_by_role("button", name=re.compile("^G ·")).click()
        page.wait_for_selector(f"[data-grip='{grip}']")
    page.wait_for_timeout(800)


def _answered(address: str, sent: list[str]) -> tuple[np.ndarray, list[str]]:
    """How long each answer took, one after the other, and the answers: what moves."""
    took: list[float] = []
    answers: list[str] = []
    live = address.replace("http", "ws", 1) + "/api/live"
    with connect(live, origin=Origin(address), compression=None) as channel:
        for text in sent:
            begun = time.perf_counter()
            channel.send(text)
            answer = str(channel.recv())
            while json.loads(answer)["sequence"] != json.loads(text)["sequence"]:
                # The whole scene of the move before, which came in between.
                begun = time.perf_counter()
                answer = str(channel.recv())
            took.append(1e3 * (time.perf_counter() - begun))
            answers.append(answer)
    return np.array(took), answers


def _drag(page: Page, grip: str | None) -> tuple[np.ndarray, np.ndarray]:
    page.evaluate("bench.set.length = bench.painted.length = 0")
    seen = page.evaluate(DRAG, [MOVES, grip, 40 if grip else 180])
    return _latencies(seen["times"], seen["set"]), _latencies(seen["times"], seen["painted"])


def _said(times: np.ndarray) -> str:
    return f"{np.median(times):6.1f} {np.quantile(times, 0.95):6.1f} {_over(times):6.1%}"


def _over(times: np.ndarray) -> float:
    return float((times > FRAME_MS).mean())


def _latencies(times: list[float], shown: list[list[float]]) -> np.ndarray:
    """For each move, how long until it or a later one is shown."""
    took = []
    for move, start in enumerate(times, start=1):
        after = [at for held, at in shown if held >= move and at >= start]
        took.append(min(after) - start if after else np.inf)
    return np.array(took)


if __name__ == "__main__":
    main()
