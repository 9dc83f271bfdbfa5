import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { LiveAnswer } from '../api/client';
import { Channel } from './channel';

/** The server's side of a socket. */
class Socket {
  static readonly OPEN = 1;
  static all: Socket[] = [];
  readyState = 0;
  sent: { sequence: number; chosen: string }[] = [];
  onopen?: () => void;
  onclose?: () => void;
  onmessage?: (event: { data: string }) => void;

  constructor(readonly address: string) {
    Socket.all.push(this);
  }

  send(text: string): void {
    this.sent.push(JSON.parse(text));
  }

  open(): void {
    this.readyState = Socket.OPEN;
    this.onopen?.();
  }

  close(): void {
    if (this.readyState === 3) return;
    this.readyState = 3;
    this.onclose?.();
  }

  answer(answer: Partial<LiveAnswer>): void {
    this.onmessage?.({ data: JSON.stringify(answer) });
  }
}

const last = () => Socket.all.at(-1)!;

function channel() {
  const heard = {
    answers: [] as [number, string][],
    moved: [] as string[],
    states: [] as boolean[],
  };
  const made = new Channel<string>({
    write: (chosen) => ({ chosen, hold: false, marks: [], acts: [], sample: [] }),
    onAnswer: (answer, request) => heard.answers.push([answer.sequence, request]),
    onMoved: (_, request) => heard.moved.push(request),
    onState: (connected) => heard.states.push(connected),
  });
  return { made, heard };
}

beforeEach(() => {
  Socket.all = [];
  vi.stubGlobal('WebSocket', Socket);
  vi.useFakeTimers();
});

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('the live channel', () => {
  it('sends every request at once, and the newest that waited for the connection', () => {
    const { made } = channel();
    made.send('a');
    made.send('b');
    expect(last().sent).toEqual([]);
    last().open();
    expect(last().sent.map((one) => one.chosen)).toEqual(['b']);
    made.send('c');
    expect(last().sent.map((one) => one.chosen)).toEqual(['b', 'c']);
  });

  it('takes an answer for all requests before its own', () => {
    const { made, heard } = channel();
    last().open();
    for (const one of 'abc') made.send(one);
    const [, b, c] = last().sent;
    last().answer({ sequence: b!.sequence });
    expect(made.idle).toBe(false);
    last().answer({ sequence: last().sent[0]!.sequence });
    last().answer({ sequence: c!.sequence });
    expect(made.idle).toBe(true);
    expect(heard.answers.map(([, request]) => request)).toEqual(['b', 'c']);
  });

  it('takes what moves without settling the request, and an answer without a number as the newest', () => {
    const { made, heard } = channel();
    last().open();
    made.send('a');
    const { sequence } = last().sent.at(-1)!;
    last().answer({ sequence, moved: {} as NonNullable<LiveAnswer['moved']> });
    expect([heard.moved, made.idle]).toEqual([['a'], false]);
    last().answer({ sequence: -1 });
    expect([heard.answers.map(([, request]) => request), made.idle]).toEqual([['a'], true]);
  });

  it('opens a lost connection again, later each time, and asks the newest anew', () => {
    const { made, heard } = channel();
    last().open();
    made.send('a');
    last().close();
    expect(heard.states).toEqual([true, false]);
    vi.advanceTimersByTime(249);
    expect(Socket.all).toHaveLength(1);
    vi.advanceTimersByTime(1);
    expect(Socket.all).toHaveLength(2);
    last().close();
    vi.advanceTimersByTime(499);
    expect(Socket.all).toHaveLength(2);
    vi.advanceTimersByTime(1);
    last().open();
    expect(last().sent.map((one) => one.chosen)).toEqual(['a']);
    expect(heard.states.at(-1)).toBe(true);
  });

  it('counts a server that does not answer as a lost connection', () => {
    const { made, heard } = channel();
    last().open();
    made.send('a');
    vi.advanceTimersByTime(3999);
    expect(heard.states).toEqual([true]);
    vi.advanceTimersByTime(1);
    expect(heard.states).toEqual([true, false]);
  });

  it('waits as long as the server says that it works on the answer', () => {
    const { made, heard } = channel();
    last().open();
    made.send('a');
    for (let second = 0; second < 12; second += 1) {
      vi.advanceTimersByTime(1000);
      last().answer({ sequence: -1, working: true });
    }
    expect([heard.states, heard.answers, Socket.all.length]).toEqual([[true], [], 1]);
    last().answer({ sequence: last().sent.at(-1)!.sequence });
    expect(heard.answers.map(([, request]) => request)).toEqual(['a']);
  });

  it('stays closed once it is closed', () => {
    const { made, heard } = channel();
    last().open();
    made.close();
    vi.advanceTimersByTime(60_000);
    expect([Socket.all.length, heard.states]).toEqual([1, [true]]);
  });
});
