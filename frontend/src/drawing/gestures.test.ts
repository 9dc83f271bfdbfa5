import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Gestures, type Hold } from './gestures.svelte';
import { Viewport } from './viewport.svelte';

let drawing: SVGSVGElement;
let view: Viewport;
let gestures: Gestures;
let hold: Hold | undefined;

function pointer(kind: string, x: number, y: number, pointerId = 1, button = 0): void {
  const event = new MouseEvent(`pointer${kind}`, { clientX: x, clientY: y, button, bubbles: true });
  drawing.dispatchEvent(Object.assign(event, { pointerId }));
}

beforeEach(() => {
  drawing = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  drawing.setPointerCapture = () => {};
  drawing.getBoundingClientRect = () => ({ left: 100, top: 50 }) as DOMRect;
  view = new Viewport();
  hold = undefined;
  gestures = new Gestures(view, { take: () => hold });
  gestures.on(drawing);
});

describe('gestures on a drawing', () => {
  it('move the view where a press takes hold of nothing', () => {
    pointer('down', 120, 60);
    pointer('move', 130, 55);
    pointer('move', 140, 60);
    expect([view.x, view.y, view.moved, gestures.panning]).toEqual([20, 0, true, true]);
    pointer('up', 140, 60);
    pointer('move', 200, 60);
    expect([view.x, gestures.panning, gestures.busy]).toEqual([20, false, false]);
  });

  it('pull what a press takes hold of, and leave the view alone', () => {
    hold = { move: vi.fn(), end: vi.fn() };
    pointer('down', 120, 60);
    pointer('move', 125, 70);
    pointer('up', 126, 71);
    expect(hold.move).toHaveBeenCalledWith([25, 20]);
    expect(hold.end).toHaveBeenCalledWith([26, 21]);
    expect(view.moved).toBe(false);
  });

  it('zoom about what lies between two fingers, and first let go of what is held', () => {
    hold = { move: vi.fn(), end: vi.fn() };
    pointer('down', 200, 150, 1);
    pointer('down', 300, 150, 2);
    expect(hold.end).toHaveBeenCalledWith([100, 100]);
    const between = view.toPiece(150, 100);
    pointer('move', 150, 150, 1);
    pointer('move', 350, 150, 2);
    expect(view.scale).toBeCloseTo(2);
    expect(view.toScreen(between)[0]).toBeCloseTo(150);
    expect(hold.move).not.toHaveBeenCalled();
  });

  it('zoom by the wheel about where the pointer is', () => {
    const at = view.toPiece(60, 40);
    const turn = new MouseEvent('wheel', { clientX: 160, clientY: 90, cancelable: true });
    drawing.dispatchEvent(Object.assign(turn, { deltaY: -100 }));
    expect(view.scale).toBeGreaterThan(1.05);
    const [x, y] = view.toScreen(at);
    expect([x, y]).toEqual([expect.closeTo(60), expect.closeTo(40)]);
  });
});
