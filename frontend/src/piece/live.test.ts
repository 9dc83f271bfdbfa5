import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { LiveAnswer, Piece } from '../api/client';
import type { Asking } from './live.svelte';
import { Snapshot } from './snapshot';

const sockets: { sent: Record<string, unknown>[]; answer: (answer: Partial<LiveAnswer>) => void }[] = [];

class Socket {
  static readonly OPEN = 1;
  readyState = 1;
  sent: Record<string, unknown>[] = [];
  onopen?: () => void;
  onmessage?: (event: { data: string }) => void;

  constructor() {
    sockets.push(this);
    queueMicrotask(() => this.onopen?.());
  }

  send(text: string): void {
    this.sent.push(JSON.parse(text));
  }

  answer(answer: Partial<LiveAnswer>): void {
    const sequence = this.sent.at(-1)!.sequence as number;
    this.onmessage?.({ data: JSON.stringify({ sequence, ...answer }) });
  }

  close(): void {}
}

vi.stubGlobal('WebSocket', Socket);
const { Live } = await import('./live.svelte');

const asking = (at: Snapshot): Asking => ({
  at, doing: undefined, chosen: null, node: null, marks: [], hold: false, byFace: null, sample: [], row: null,
});

function begun() {
  const answers: LiveAnswer[] = [];
  const live = new Live((answer) => answers.push(answer), () => {});
  return { live, answers, socket: sockets.at(-1)! };
}

beforeEach(() => {
  sockets.length = 0;
});

describe('asking for the piece', () => {
  it('sends the document once, and then its name', () => {
    const { live, socket } = begun();
    const at = new Snapshot({ title: 'Lid' } as Piece);
    live.ask(asking(at));
    expect(socket.sent.at(-1)).toMatchObject({ piece: { title: 'Lid' } });
    socket.answer({ base: 'h1' });
    live.ask(asking(at));
    expect(socket.sent.at(-1)).toMatchObject({ base: 'h1' });
    expect(socket.sent.at(-1)).not.toHaveProperty('piece');
    live.ask(asking(at.changed((piece) => ({ ...piece, title: 'Tin' }))));
    expect(socket.sent.at(-1)).toMatchObject({ piece: { title: 'Tin' } });
  });

  it('sends the document again to a server that has forgotten it', () => {
    const { live, answers, socket } = begun();
    const at = new Snapshot({ title: 'Lid' } as Piece, 'h1');
    live.ask(asking(at));
    expect(socket.sent.at(-1)).toMatchObject({ base: 'h1' });
    socket.answer({ unknown: true });
    expect(answers).toEqual([]);
    expect(socket.sent.at(-1)).toMatchObject({ piece: { title: 'Lid' } });
    socket.answer({ base: 'h1' });
    expect(answers).toHaveLength(1);
  });

  it('keeps the last scene over a piece that is wrong, and says what is', () => {
    const { live, socket } = begun();
    const scene = { letterings: [], guides: [] } as unknown as NonNullable<LiveAnswer['scene']>;
    live.ask(asking(new Snapshot({ title: 'Lid' } as Piece)));
    socket.answer({ scene });
    live.ask(asking(new Snapshot({ title: 'Tin' } as Piece)));
    socket.answer({ problems: [{ field: 'letterings[0].height', reason: 'must be more than 0' }] });
    expect(live.scene).toEqual(scene);
    expect(live.problems[0]?.field).toBe('letterings[0].height');
  });
});
