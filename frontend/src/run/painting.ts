/** Paints a run on a canvas: all of it faintly, and what is done so far. */

import type { RunScene } from '../api/client';
import { brushOf, canvasOf, Progress, show, type Frame } from '../rehearsal/progress';
import type { Moment, Timeline } from './timeline';

const FAINT = 0.22;
const SEAM = 0.6;
const WIDTH = 1.4;

/** A strip of relief: x and y of four corners, and how light it is. */
const STRIP = 9;
/** Per cent of the colour of what is carved, turned away from the light and towards it. */
const [DARKEST, LIGHTEST] = [75, 10];
const FLOOR = 0.5;

/** Colours: what lies below the sheet, a part of it that is loose, and what is carved. */
export interface Paper {
  ground: string;
  part: string;
  carved: string;
}

export class Painting {
  #faint: HTMLCanvasElement;
  #done: Progress;
  /** Parts that have come loose: what falls out shows the ground, what is kept stands off. */
  #apart: HTMLCanvasElement;
  #loose = 0;

  constructor(
    private readonly scene: RunScene,
    private readonly timeline: Timeline,
    private readonly view: Frame,
    private readonly paper: Paper,
  ) {
    this.#faint = canvasOf(view);
    this.#apart = canvasOf(view);
    this.#done = new Progress(view, timeline.tracks.length, (brush, index) => {
      if (this.#carves(index)) this.#carve(brush, index);
      else this.#stroke(brush, index);
    });
    const faint = brushOf(this.#faint, view);
    faint.globalAlpha = FAINT;
    this.timeline.tracks.forEach((_, index) => this.#stroke(faint, index));
  }

  /** Show a moment on a canvas. */
  paint(canvas: HTMLCanvasElement, moment: Moment, time: number): void {
    this.#done.reach(moment.done);
    this.#comeApart(time);
    show(canvas, this.view, [this.#apart, this.#faint, this.#done.canvas]);
    if (moment.track === undefined) return;
    const brush = brushOf(canvas, this.view);
    this.#carve(brush, moment.track, moment);
    this.#stroke(brush, moment.track, moment);
  }

  /** Paint what has come loose by a time: what lies round a part comes loose later, and lies below. */
  #comeApart(time: number): void {
    const { loose } = this.scene;
    const brush = brushOf(this.#apart, this.view);
    if (this.#loose && loose[this.#loose - 1]!.at > time) {
      brush.save();
      brush.setTransform(1, 0, 0, 1, 0, 0);
      brush.clearRect(0, 0, this.#apart.width, this.#apart.height);
      brush.restore();
      this.#loose = 0;
    }
    brush.globalCompositeOperation = 'destination-over';
    for (; this.#loose < loose.length && loose[this.#loose]!.at <= time; this.#loose += 1) {
      const { points, kept } = loose[this.#loose]!;
      brush.beginPath();
      for (let at = 0; at < points.length; at += 2) brush.lineTo(points[at]!, points[at + 1]!);
      brush.closePath();
      brush.fillStyle = kept ? this.paper.part : this.paper.ground;
      brush.fill();
    }
  }

  #carves(index: number): boolean {
    const { relief, pass } = this.timeline.tracks[index]!;
    return relief.length > 0 || this.scene.passes[pass]!.clears > 0;
  }

  /** What a cutter leaves of the surface: all along a track, or about as far as it has come. */
  #carve(brush: CanvasRenderingContext2D, index: number, until?: Moment): void {
    const { relief, points, pass } = this.timeline.tracks[index]!;
    const { clears } = this.scene.passes[pass]!;
    if (clears) {
      brush.strokeStyle = this.#wood(FLOOR);
      brush.lineWidth = clears;
      brush.lineCap = brush.lineJoin = 'round';
      brush.setLineDash([]);
      this.#line(brush, index, until);
      return;
    }
    const strips = relief.length / STRIP;
    const share = until ? until.after / points.length : 1;
    brush.lineWidth = SEAM / this.view.scale;
    brush.setLineDash([]);
    for (let strip = 0; strip < strips; strip += 1) {
      // Those to the left of the way come first, and then those to its right.
      if ((strip % (strips / 2)) / (strips / 2) > share) continue;
      const at = strip * STRIP;
      brush.fillStyle = this.#wood(relief[at + 8]!);
      brush.beginPath();
      for (let corner = 0; corner < 8; corner += 2) brush.lineTo(relief[at + corner]!, relief[at + corner + 1]!);
      brush.closePath();
      brush.fill();
      // Neighbours meet without a seam.
      brush.strokeStyle = brush.fillStyle;
      brush.stroke();
    }
  }

  /** One track: all of it, or as far as the tool has come. */
  #stroke(brush: CanvasRenderingContext2D, index: number, until?: Moment): void {
    const { colour = '', dashes = [] } = this.scene.passes[this.timeline.tracks[index]!.pass] ?? {};
    brush.strokeStyle = colour;
    brush.lineWidth = WIDTH / this.view.scale;
    brush.setLineDash(dashes.map((dash) => dash / Math.max(this.view.scale / 4, 0.25)));
    this.#line(brush, index, until);
  }

  /** The colour of what is carved, by how light it is. */
  #wood(light: number): string {
    const dark = Math.round(DARKEST - (DARKEST - LIGHTEST) * light);
    return `color-mix(in srgb, ${this.paper.carved} ${dark}%, ${this.paper.ground})`;
  }

  #line(brush: CanvasRenderingContext2D, index: number, until?: Moment): void {
    const { points } = this.timeline.tracks[index]!;
    brush.beginPath();
    brush.moveTo(points[0] ?? 0, points[1] ?? 0);
    const end = until ? until.after : points.length;
    for (let at = 3; at < end; at += 3) brush.lineTo(points[at]!, points[at + 1]!);
    if (until) brush.lineTo(until.x, until.y);
    brush.stroke();
  }
}
