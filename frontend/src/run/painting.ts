/** Paints a run on a canvas: all of it faintly, and what is done so far. */

import type { Viewport } from '../drawing/viewport.svelte';
import type { RunScene } from '../api/client';
import type { Moment, Timeline } from './timeline';

const FAINT = 0.22;
/** What is done is remembered as a picture at so many moments, to go back to. */
const REMEMBERED = 12;
const WIDTH = 1.4;

type View = Pick<Viewport, 'scale' | 'x' | 'y' | 'width' | 'height'>;

/** Colours: what lies below the sheet, and a part of it that is loose. */
export interface Paper {
  ground: string;
  part: string;
}

export class Painting {
  #faint = document.createElement('canvas');
  #done = document.createElement('canvas');
  #count = 0;
  /** Parts that have come loose: what falls out shows the ground, what is kept stands off. */
  #apart = document.createElement('canvas');
  #loose = 0;
  #kept = new Map<number, HTMLCanvasElement>();
  #sharp = 1;

  constructor(
    private readonly scene: RunScene,
    private readonly timeline: Timeline,
    private readonly view: View,
    private readonly paper: Paper,
  ) {
    this.#sharp = window.devicePixelRatio || 1;
    for (const canvas of [this.#faint, this.#done, this.#apart]) this.#size(canvas);
    const faint = this.#brush(this.#faint);
    faint.globalAlpha = FAINT;
    this.timeline.tracks.forEach((_, index) => this.#stroke(faint, index));
  }

  /** Show a moment on a canvas. */
  paint(canvas: HTMLCanvasElement, moment: Moment, time: number): void {
    this.#reach(moment.done);
    this.#comeApart(time);
    if (canvas.width !== this.#done.width || canvas.height !== this.#done.height) this.#size(canvas);
    const target = canvas.getContext('2d')!;
    target.setTransform(1, 0, 0, 1, 0, 0);
    target.clearRect(0, 0, canvas.width, canvas.height);
    target.drawImage(this.#apart, 0, 0);
    target.drawImage(this.#faint, 0, 0);
    target.drawImage(this.#done, 0, 0);
    if (moment.track === undefined) return;
    const brush = this.#brush(canvas);
    this.#stroke(brush, moment.track, moment);
  }

  /** Paint what has come loose by a time: what lies round a part comes loose later, and lies below. */
  #comeApart(time: number): void {
    const { loose } = this.scene;
    const brush = this.#brush(this.#apart);
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

  /** Paint what is done up to a track, from the nearest picture before it. */
  #reach(count: number): void {
    const done = this.#brush(this.#done);
    if (count < this.#count) {
      const before = [...this.#kept.keys()].filter((one) => one <= count);
      const nearest = before.length ? Math.max(...before) : 0;
      done.save();
      done.setTransform(1, 0, 0, 1, 0, 0);
      done.clearRect(0, 0, this.#done.width, this.#done.height);
      const kept = this.#kept.get(nearest);
      if (kept) done.drawImage(kept, 0, 0);
      done.restore();
      this.#count = nearest;
    }
    const every = Math.ceil(this.timeline.tracks.length / REMEMBERED);
    for (; this.#count < count; this.#count += 1) {
      if (this.#count && this.#count % every === 0) this.#keep(this.#count);
      this.#stroke(done, this.#count);
    }
  }

  #keep(count: number): void {
    if (this.#kept.has(count)) return;
    const copy = document.createElement('canvas');
    copy.width = this.#done.width;
    copy.height = this.#done.height;
    copy.getContext('2d')!.drawImage(this.#done, 0, 0);
    this.#kept.set(count, copy);
  }

  #size(canvas: HTMLCanvasElement): void {
    canvas.width = Math.max(1, Math.round(this.view.width * this.#sharp));
    canvas.height = Math.max(1, Math.round(this.view.height * this.#sharp));
  }

  #brush(canvas: HTMLCanvasElement): CanvasRenderingContext2D {
    const brush = canvas.getContext('2d')!;
    const { scale, x, y } = this.view;
    brush.setTransform(scale * this.#sharp, 0, 0, scale * this.#sharp, x * this.#sharp, y * this.#sharp);
    brush.lineWidth = WIDTH / scale;
    brush.lineJoin = 'round';
    return brush;
  }

  /** One track: all of it, or as far as the tool has come. */
  #stroke(brush: CanvasRenderingContext2D, index: number, until?: Moment): void {
    const { points, pass } = this.timeline.tracks[index]!;
    const { colour = '', dashes = [] } = this.scene.passes[pass] ?? {};
    brush.strokeStyle = colour;
    brush.setLineDash(dashes.map((dash) => dash / Math.max(this.view.scale / 4, 0.25)));
    brush.beginPath();
    brush.moveTo(points[0] ?? 0, points[1] ?? 0);
    const end = until ? until.after : points.length;
    for (let at = 3; at < end; at += 3) brush.lineTo(points[at]!, points[at + 1]!);
    if (until) brush.lineTo(until.x, until.y);
    brush.stroke();
  }
}
