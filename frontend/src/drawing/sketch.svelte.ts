/** A line being drawn: points placed by clicks, or the pointer's way. */

import type { Editor } from '../piece/editor.svelte';
import type { Snapshot } from '../piece/snapshot';

type XY = [number, number];

const CLOSE_PX = 10;
const APART_PX = 2;

export class Sketch {
  points = $state.raw<XY[]>([]);
  /** How closely a freehand line is followed, mm. */
  tolerance = $state(0.5);
  #base: Snapshot | undefined;

  constructor(private readonly editor: Editor) {}

  get active(): boolean {
    return this.points.length > 0;
  }

  /** A point placed; the line so far is shown as the core makes it. */
  place(at: XY, scale: number): void {
    this.#begin();
    const first = this.points[0];
    const last = this.points.at(-1);
    if (last && near(last, at, APART_PX / scale)) return;
    if (first && this.points.length > 2 && near(first, at, CLOSE_PX / scale)) {
      this.finish(true);
      return;
    }
    this.points = [...this.points, at];
    this.#show(this.points, false);
  }

  /** Where the pointer is, as the point that would come next. */
  hover(at: XY, scale: number): void {
    const last = this.points.at(-1);
    if (last && !near(last, at, APART_PX / scale)) this.#show([...this.points, at], false);
  }

  /** A freehand line goes on. */
  draw(at: XY, scale: number): void {
    this.#begin();
    const last = this.points.at(-1);
    if (!last || !near(last, at, APART_PX / scale)) this.points = [...this.points, at];
  }

  /** End the line by points. */
  finish(closed = false): void {
    if (this.points.length < 2) return this.cancel();
    this.#show(this.points, true, closed);
    this.#end();
  }

  /** End the freehand line. */
  finishFreehand(): void {
    if (this.points.length < 2) return this.cancel();
    const { points, tolerance } = this;
    this.editor.make({ act: 'draw-freehand', points, tolerance }, this.#base);
    this.#end();
  }

  cancel(): void {
    this.editor.leaveOff();
    if (this.#base) this.editor.change({ guides: this.#base.piece.guides });
    void this.editor.finish();
    this.#end();
  }

  #begin(): void {
    if (this.#base) return;
    this.#base = this.editor.base;
  }

  #show(points: XY[], last: boolean, closed = false): void {
    if (points.length < 2) return;
    const act = { act: 'draw-through', points, closed } as const;
    if (last) this.editor.make(act, this.#base);
    else this.editor.act(act, this.#base, false);
  }

  #end(): void {
    this.points = [];
    this.#base = undefined;
    this.editor.selection.take('choose');
  }
}

const near = (a: XY, b: XY, apart: number): boolean =>
  Math.abs(a[0] - b[0]) <= apart && Math.abs(a[1] - b[1]) <= apart;
