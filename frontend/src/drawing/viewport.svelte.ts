/** Zoom and pan of the drawing: which stretch of the piece, mm, the screen shows. */

type Box = readonly [number, number, number, number];

const CLOSEST = 400;
const STEP = 1.25;

export class Viewport {
  /** Pixels a millimetre. */
  scale = $state(1);
  /** Where the piece's origin is on the screen, px. */
  x = $state(0);
  y = $state(0);
  width = $state(0);
  height = $state(0);
  /** Whether the person has moved the view away from the whole piece. */
  moved = $state(false);

  /** Show a box, mm, with a margin round it, px. */
  show(box: Box, margin: number): void {
    const [x0, y0, x1, y1] = box;
    const wide = Math.max(x1 - x0, 1e-6);
    const high = Math.max(y1 - y0, 1e-6);
    const fits = Math.min((this.width - 2 * margin) / wide, (this.height - 2 * margin) / high);
    this.scale = Math.min(Math.max(fits, 1e-3), CLOSEST);
    this.x = this.width / 2 - (this.scale * (x0 + x1)) / 2;
    this.y = this.height / 2 - (this.scale * (y0 + y1)) / 2;
  }

  zoom(factor: number, atX = this.width / 2, atY = this.height / 2): void {
    const scale = Math.min(Math.max(this.scale * factor, 1e-3), CLOSEST);
    this.x = atX - ((atX - this.x) * scale) / this.scale;
    this.y = atY - ((atY - this.y) * scale) / this.scale;
    this.scale = scale;
    this.moved = true;
  }

  zoomIn(): void {
    this.zoom(STEP);
  }

  zoomOut(): void {
    this.zoom(1 / STEP);
  }

  pan(dx: number, dy: number): void {
    this.x += dx;
    this.y += dy;
    this.moved = true;
  }

  /** From screen, px, to piece, mm with y down. */
  toPiece(x: number, y: number): [number, number] {
    return [(x - this.x) / this.scale, (y - this.y) / this.scale];
  }

  /** From piece, mm with y down, to screen, px. */
  toScreen(point: readonly number[]): [number, number] {
    return [this.x + this.scale * (point[0] ?? 0), this.y + this.scale * (point[1] ?? 0)];
  }

  get transform(): string {
    return `matrix(${this.scale} 0 0 ${this.scale} ${this.x} ${this.y})`;
  }
}
