/** Zoom and pan of the drawing: which stretch of the piece, mm, the screen shows. */

const UPRIGHT = [1, 0, 0, 1, 0, 0];

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
  /** How the piece lies: the six figures of a matrix that turns, mirrors and moves it. */
  lie = $state.raw<readonly number[]>(UPRIGHT);
  /** Whether the person has moved the view away from the whole piece. */
  moved = $state(false);

  /** Show a box of the piece, mm, with a margin round it, px. */
  show(box: Box, margin: number): void {
    const [left, top, right, bottom] = box;
    const corners = [[left, top], [left, bottom], [right, top], [right, bottom]].map((one) => this.#laid(one));
    const [xs, ys] = [corners.map((one) => one[0]), corners.map((one) => one[1])];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
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
    const [e, f] = [this.lie[4] ?? 0, this.lie[5] ?? 0];
    return this.back((x - this.x) / this.scale - e, (y - this.y) / this.scale - f);
  }

  /** A way on the screen as one of the piece. */
  back(dx: number, dy: number): [number, number] {
    const [a = 1, b = 0, c = 0, d = 1] = this.lie;
    return [a * dx + b * dy, c * dx + d * dy];
  }

  #laid(point: readonly number[]): [number, number] {
    const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = this.lie;
    const [x = 0, y = 0] = point;
    return [a * x + c * y + e, b * x + d * y + f];
  }

  /** From piece, mm with y down, to screen, px. */
  toScreen(point: readonly number[]): [number, number] {
    const [x, y] = this.#laid(point);
    return [this.x + this.scale * x, this.y + this.scale * y];
  }

  /** Of what lies in the sheet's own plane. */
  get sheetTransform(): string {
    return `matrix(${this.scale} 0 0 ${this.scale} ${this.x} ${this.y})`;
  }

  /** Of what lies in the piece's plane. */
  get transform(): string {
    return this.lie === UPRIGHT ? this.sheetTransform : `${this.sheetTransform} matrix(${this.lie.join(' ')})`;
  }
}
