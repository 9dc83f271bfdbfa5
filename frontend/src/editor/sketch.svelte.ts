/** A line being drawn: points placed by clicks, or the pointer's way. */

import type { Editor } from './editor.svelte';
import type { Piece } from '../api/client';

type XY = [number, number];

const CLOSE_PX = 10;
const APART_PX = 2;

export class Sketch {
  points = $state.raw<XY[]>([]);
  /** How closely a freehand line is followed, mm. */
  tolerance = $state(0.5);
  #base: Piece | undefined;
  #id = '';

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
    this.editor.awaitGuide(this.#id);
    this.editor.act(
      {
        act: 'draw-freehand',
        guide: this.#id,
        points: this.points,
        tolerance: this.tolerance,
      },
      this.#base,
    );
    this.#end();
  }

  cancel(): void {
    this.editor.leaveOff();
    if (this.#base) this.editor.change({ guides: this.#base.guides });
    void this.editor.finish();
    this.#end();
  }

  #begin(): void {
    if (this.#base) return;
    this.#base = this.editor.piece;
    this.#id = this.editor.newGuideId('line');
  }

  #show(points: XY[], last: boolean, closed = false): void {
    if (points.length < 2) return;
    if (last) this.editor.awaitGuide(this.#id);
    this.editor.act({ act: 'draw-through', guide: this.#id, points, closed }, this.#base, last);
  }

  #end(): void {
    this.points = [];
    this.#base = undefined;
    this.editor.take('choose');
  }
}

const near = (a: XY, b: XY, apart: number): boolean =>
  Math.abs(a[0] - b[0]) <= apart && Math.abs(a[1] - b[1]) <= apart;
