import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, type OpenPiece, type Piece } from '../api/client';
import { Keeping, type Owner } from './keeping.svelte';

const CHANGED_AT = '2030-05-01T10:00:00Z';
const opened = (title: string, revision: number): OpenPiece => ({
  id: 'p', piece: { title } as Piece, revision, can_undo: revision > 1, can_redo: false,
  changed_at: CHANGED_AT,
});

class Hand implements Owner {
  piece = { title: 'Lid' } as Piece;
  acting = false;
  said: string[] = [];
  shown: string[] = [];
  refused: string[] = [];

  show(piece: Piece): void {
    this.piece = piece;
    this.shown.push(piece.title ?? '');
  }

  apart(_sent: Piece, names: NonNullable<Piece['names']>): boolean {
    this.piece = { ...this.piece, names };
    return true;
  }

  say(words: string): void {
    this.said.push(words);
  }

  refuse(problems: { field: string }[]): void {
    this.refused.push(...problems.map((one) => one.field));
  }
}

let hand: Hand;
let keeping: Keeping;
const put = vi.spyOn(api, 'PUT');
const get = vi.spyOn(api, 'GET');
const post = vi.spyOn(api, 'POST');
const answers = (mock: unknown, answer: object) =>
  (mock as { mockResolvedValueOnce: (answer: object) => void }).mockResolvedValueOnce(answer);

const kept = (revision: number, names?: object) => ({
  data: { id: 'p', names: names ?? null, revision, can_undo: true, can_redo: false, changed_at: CHANGED_AT },
});

function change(title: string): void {
  hand.piece = { title } as Piece;
  keeping.changed();
}

beforeEach(() => {
  vi.useFakeTimers();
  hand = new Hand();
  keeping = new Keeping('p', opened('Lid', 1), hand);
  for (const mock of [put, get, post]) mock.mockReset();
});

afterEach(() => {
  keeping.close();
  vi.useRealTimers();
});

describe('keeping', () => {
  it('makes a change a revision on top of the one that there is', async () => {
    change('Tin');
    expect(keeping.state).toBe('changed');
    answers(put, kept(2));
    await keeping.keep();
    expect(put.mock.calls[0]?.[1]).toMatchObject({ body: { base: 1, piece: { title: 'Tin' } } });
    expect([keeping.state, keeping.canUndo]).toEqual(['kept', true]);
    // What is kept already is not kept again.
    await keeping.keep();
    expect(put).toHaveBeenCalledTimes(1);
  });

  it('does not keep again what is only said shorter by the server', async () => {
    hand.piece = { title: 'Tag', names: { rows: ['many'] } } as unknown as Piece;
    answers(put, kept(2, { rows: ['a leaf'] }));
    await keeping.keep();
    expect(hand.piece.names?.rows).toEqual(['a leaf']);
    expect(keeping.state).toBe('kept');
    await keeping.keep();
    expect(put).toHaveBeenCalledTimes(1);
  });

  it('keeps once a person pauses, and only then', async () => {
    const finish = vi.fn();
    keeping.pauseThen(finish);
    vi.advanceTimersByTime(600);
    keeping.pauseThen(finish);
    vi.advanceTimersByTime(600);
    expect(finish).not.toHaveBeenCalled();
    vi.advanceTimersByTime(300);
    expect(finish).toHaveBeenCalledTimes(1);
  });

  it('stays changed while something is being done, and where more has been typed meanwhile', async () => {
    change('Tin');
    put.mockImplementationOnce((async () => {
      hand.piece = { title: 'Tin lid' } as Piece;
      return kept(2);
    }) as never);
    await keeping.keep();
    expect(keeping.state).toBe('changed');
    hand.acting = true;
    answers(put, kept(3));
    await keeping.keep();
    expect(put.mock.calls[1]?.[1]).toMatchObject({ body: { base: 2, piece: { title: 'Tin lid' } } });
    expect(keeping.state).toBe('changed');
  });

  it('says what is wrong with a piece that is refused, and keeps it when it is mended', async () => {
    change('');
    const error = { status: 422, detail: 'The title is empty.', errors: [{ field: 'title', reason: '' }] };
    answers(put, { error });
    await keeping.keep();
    expect([keeping.state, hand.said, hand.refused]).toEqual(['wrong', [], ['title']]);
    expect(keeping.waits).toBe(true);
    change('Tin');
    answers(put, kept(2));
    await keeping.keep();
    expect(keeping.state).toBe('kept');
  });

  it('tries again while the server does not answer', async () => {
    change('Tin');
    put.mockRejectedValueOnce(new TypeError('no network'));
    await keeping.keep();
    expect(keeping.state).toBe('offline');
    answers(put, kept(2));
    await vi.advanceTimersByTimeAsync(2000);
    expect([keeping.state, put.mock.calls.length]).toEqual(['kept', 2]);
  });
});

describe('an outage of the database', () => {
  it('is waited for, as if the server itself were away', async () => {
    change('Tin');
    answers(put, { error: { status: 503, detail: 'The database does not answer.' } });
    await keeping.keep();
    expect([keeping.state, hand.refused]).toEqual(['offline', []]);
    answers(put, kept(2));
    await vi.advanceTimersByTimeAsync(2000);
    expect(keeping.state).toBe('kept');
  });
});

describe('a stale write', () => {
  const conflict = { error: { status: 409, current: 5, kept: 6, detail: 'changed meanwhile' } };

  beforeEach(async () => {
    change('Ours');
    answers(put, conflict);
    await keeping.keep();
  });

  it('is told with both sides, and stops keeping', async () => {
    expect([keeping.state, keeping.conflict]).toEqual(['conflict', { current: 5, kept: 6 }]);
    change('Ours, and more');
    await keeping.keep();
    await keeping.step('undo');
    expect([keeping.state, put.mock.calls.length, post.mock.calls.length]).toEqual(['conflict', 1, 0]);
  });

  it('is settled by theirs, on which ours can be put', async () => {
    answers(get, { data: opened('Theirs', 5) });
    expect(await keeping.takeTheirs()).toBe(true);
    expect([keeping.state, hand.shown, keeping.conflict]).toEqual(['kept', ['Theirs'], undefined]);
    change('Ours');
    answers(put, kept(7));
    await keeping.keep();
    expect(put.mock.calls[1]?.[1]).toMatchObject({ body: { base: 5, piece: { title: 'Ours' } } });
  });

  it('loses nothing when theirs cannot be had', async () => {
    get.mockRejectedValueOnce(new TypeError('no network'));
    expect(await keeping.takeTheirs()).toBe(false);
    expect([keeping.state, hand.piece.title, hand.said.length]).toEqual(['conflict', 'Ours', 1]);
  });

  it('can make ours a piece of its own', async () => {
    answers(post, { data: { id: 'other' } });
    expect(await keeping.copyOurs()).toBe('other');
    expect(post.mock.calls[0]?.[1]).toMatchObject({ body: { piece: { title: 'Ours (other version)' } } });
  });
});

describe('stepping back', () => {
  it('shows the earlier piece', async () => {
    answers(post, { data: opened('Before', 3) });
    await keeping.step('undo');
    expect(post.mock.calls[0]?.[1]).toMatchObject({ body: { base: 1 } });
    expect([hand.shown, keeping.canUndo]).toEqual([['Before'], true]);
  });

  it('is a conflict where another window was faster', async () => {
    answers(post, { error: { status: 409, current: 4, detail: '' } });
    await keeping.step('redo');
    expect([keeping.state, keeping.conflict]).toEqual(['conflict', { current: 4, kept: null }]);
  });
});
