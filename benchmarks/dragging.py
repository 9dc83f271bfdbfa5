"""A drag over the live channel: from the pointer's move to the letters painted.

    .venv/bin/python -m benchmarks.dragging

The real server, a real PostgreSQL and the built front end in headless Chromium
(software rendering). 200 moves are dispatched at 60 Hz; each is timed from its
event to the first frame painted with an answer to it or to a later move. The number
of letters is doubled until fewer than 95 % of the moves fit one 60 Hz frame.
"""

from __future__ import annotations

import json
import urllib.request

import numpy as np
from playwright.sync_api import Page, sync_playwright

from tests.browser.chromium import EXECUTABLE, OPTIONS
from tests.running import RunningUlvent, remove, temporary_folder

MOVES = 200
FRAME_MS = 1000 / 60
WANTED = 0.95
MOST_LETTERS = 1920
WORDS = "QUILLMEREORCHARDAUTUMNFAIRPRESSEDBYHANDINTHEOLDBARNNEARLOWER"

# Wraps the socket before the page's own scripts run: which move a request held, and
# when its answer had been painted (the task after the frame that follows it).
WATCH = """
window.bench = { moved: 0, asked: new Map(), painted: [] };
const Native = window.WebSocket;
window.WebSocket = class extends Native {
  send(text) {
    bench.asked.set(JSON.parse(text).sequence, bench.moved);
    super.send(text);
  }
  set onmessage(take) {
    super.onmessage = (event) => {
      const sequence = JSON.parse(event.data.slice(0, 40).split(',')[0] + '}').sequence;
      take(event);
      const move = bench.asked.get(sequence);
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => bench.painted.push([move, performance.now()]);
        channel.port2.postMessage(0);
      });
    };
  }
};
"""

DRAG = """
async ([moves]) => {
  const target = document.querySelector('main [data-lettering] .letters path');
  const svg = target.ownerSVGElement;
  const box = svg.getBoundingClientRect();
  const [cx, cy] = [box.left + box.width / 2, box.top + box.height / 2];
  const at = (angle) => ({
    clientX: cx + 180 * Math.sin(angle), clientY: cy - 180 * Math.cos(angle) });
  const fire = (type, angle, on) => on.dispatchEvent(new PointerEvent(type, {
    ...at(angle), bubbles: true, pointerId: 1, button: 0, isPrimary: true }));
  svg.setPointerCapture = () => {};
  fire('pointerdown', 0, target);
  const times = [];
  await new Promise((done) => {
    const timer = setInterval(() => {
      if (times.length === moves) { clearInterval(timer); setTimeout(done, 500); return; }
      bench.moved = times.length + 1;
      times.push(performance.now());
      fire('pointermove', 0.004 * times.length, svg);
    }, 1000 / 60);
  });
  fire('pointerup', 0.004 * moves, svg);
  return { times, painted: bench.painted };
}
"""


def main() -> None:
    folder = temporary_folder()
    running = RunningUlvent(folder, "--empty", "--port", "0").wait_until_ready()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=EXECUTABLE, args=OPTIONS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script(WATCH)
            print(f"{MOVES} moves at 60 Hz; milliseconds from move to painted letters")
            print(f"{'letters':>8} {'median':>8} {'p95':>8}   over one frame")
            letters = 60
            while letters <= MOST_LETTERS:
                took = _drag(page, running.address, letters)
                over = float((took > FRAME_MS).mean())
                print(f"{letters:8d} {np.median(took):8.1f} {np.quantile(took, 0.95):8.1f}"
                      f"   {over:.1%}")  # fmt: skip
                if over > 1 - WANTED:
                    break
                letters *= 2
            browser.close()
    finally:
        running.stop()
        remove(folder)


def _drag(page: Page, address: str, letters: int) -> np.ndarray:
    piece = {
        "ulvent": 1,
        "guides": [{"id": "g", "kind": "circle", "diameter": 7.0 * letters, "start": 180}],
        "letterings": [
            {
                "id": "x",
                "guide": "g",
                "text": (WORDS * (letters // len(WORDS) + 1))[:letters],
                "face": "lato-bold",
                "height": 10,
                "at": 0.25,
                "at_in": "share",
                "align": "centre",
            }
        ],
    }
    request = urllib.request.Request(
        address + "/api/pieces",
        json.dumps({"piece": piece}).encode(),
        {"Content-Type": "application/json"},
    )
    with urllib.request.urlopen(request) as answer:
        made = json.load(answer)
    page.goto(f"{address}/pieces/{made['id']}")
    page.wait_for_selector("main [data-lettering] .letters path")
    page.wait_for_timeout(800)
    page.evaluate("bench.painted.length = 0")
    seen = page.evaluate(DRAG, [MOVES])
    return _latencies(seen["times"], seen["painted"])


def _latencies(times: list[float], painted: list[list[float]]) -> np.ndarray:
    """For each move, how long until a frame that holds it or a later one."""
    took = []
    for move, start in enumerate(times, start=1):
        after = [at for held, at in painted if held >= move and at >= start]
        took.append(min(after) - start if after else np.inf)
    return np.array(took)


if __name__ == "__main__":
    main()
