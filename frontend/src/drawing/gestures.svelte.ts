/**
 * Gestures on a drawing: a pointer takes hold of something or moves the view, two fingers and
 * the wheel zoom it.
 */

import type { Viewport } from './viewport.svelte';

/** A place on the drawing, px. */
export type Place = [number, number];

/** What a press has taken hold of, for as long as it lasts. */
export interface Hold {
  move?(at: Place): void;
  end?(at: Place): void;
}

interface Owner {
  /** What a press takes hold of; nothing where it moves the view. */
  take(event: PointerEvent, at: Place): Hold | undefined;
  /** The pointer moves, and nothing is pressed. */
  hover?(place: () => Place): void;
}

const WHEEL = 0.0016;
/** A pinch on a pad comes as a wheel with the control key, in small steps. */
const PINCH = 6;

export class Gestures {
  /** Whether the view is being moved. */
  panning = $state(false);
  /** Whether anything is held, the view included. */
  busy = $state(false);

  #drawing: SVGSVGElement | undefined;
  #hold: Hold | undefined;
  #fingers = new Map<number, Place>();
  /** Where the drawing is on the page; asked once a gesture, since asking lays the page out. */
  #corner = { left: 0, top: 0 };

  constructor(
    private readonly view: Viewport,
    private readonly owner: Owner,
  ) {}

  /** Listen on a drawing; the answer leaves off. */
  readonly on = (drawing: SVGSVGElement): (() => void) => {
    this.#drawing = drawing;
    const listening = new AbortController();
    const listen = <Kind extends keyof SVGSVGElementEventMap>(
      kind: Kind,
      does: (event: SVGSVGElementEventMap[Kind]) => void,
    ) => drawing.addEventListener(kind, does, { signal: listening.signal, passive: false });
    listen('pointerdown', (event) => this.#down(event));
    listen('pointermove', (event) => this.#move(event));
    listen('pointerup', (event) => this.#up(event));
    listen('pointercancel', (event) => this.#up(event));
    listen('wheel', (event) => this.#wheel(event));
    return () => listening.abort();
  };

  /** Where an event is on the drawing. */
  placeOf(event: MouseEvent): Place {
    this.#corner = this.#drawing!.getBoundingClientRect();
    return this.#place(event);
  }

  #place(event: MouseEvent): Place {
    return [event.clientX - this.#corner.left, event.clientY - this.#corner.top];
  }

  #down(event: PointerEvent): void {
    if (event.button > 1) return;
    // A second finger zooms: what the first one holds is let go of where it is.
    for (const first of this.#fingers.values()) this.#letGo(first);
    const at = this.placeOf(event);
    this.#fingers.set(event.pointerId, at);
    this.#drawing!.setPointerCapture(event.pointerId);
    this.#drawing!.focus({ preventScroll: true });
    const alone = event.button === 0 && this.#fingers.size === 1;
    this.#hold = alone ? this.owner.take(event, at) : undefined;
    this.panning = !this.#hold;
    this.busy = true;
  }

  #move(event: PointerEvent): void {
    if (!this.#fingers.size) this.owner.hover?.(() => this.placeOf(event));
    const before = this.#fingers.get(event.pointerId);
    if (!before) return;
    const at = this.#place(event);
    const others = [...this.#fingers].filter(([finger]) => finger !== event.pointerId);
    this.#fingers.set(event.pointerId, at);
    if (others.length === 1) this.#pinch(before, at, others[0]![1]);
    else if (this.#hold) this.#hold.move?.(at);
    else this.view.pan(at[0] - before[0], at[1] - before[1]);
  }

  #up(event: PointerEvent): void {
    if (!this.#fingers.delete(event.pointerId)) return;
    this.#letGo(this.#place(event));
    this.busy = this.#fingers.size > 0;
    this.panning = this.busy;
  }

  #letGo(at: Place): void {
    this.#hold?.end?.(at);
    this.#hold = undefined;
  }

  /** One of two fingers has moved: what lies between them goes with them. */
  #pinch(before: Place, now: Place, other: Place): void {
    const apart = (one: Place) =>
      Math.max(Math.abs(one[0] - other[0]) + Math.abs(one[1] - other[1]), 1);
    this.view.pan((now[0] - before[0]) / 2, (now[1] - before[1]) / 2);
    this.view.zoom(apart(now) / apart(before), (now[0] + other[0]) / 2, (now[1] + other[1]) / 2);
  }

  #wheel(event: WheelEvent): void {
    event.preventDefault();
    const steps = -event.deltaY * WHEEL * (event.ctrlKey ? PINCH : 1);
    this.view.zoom(2 ** steps, ...this.placeOf(event));
  }
}
