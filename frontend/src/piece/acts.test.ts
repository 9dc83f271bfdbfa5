import { describe, expect, it } from 'vitest';
import type { Act, Piece } from '../api/client';
import { Acts } from './acts';
import { Snapshot } from './snapshot';

const press = (by: number): Act[] => [{ act: 'slide-by', lettering: 'name', by }];
const at = (title: string) => new Snapshot({ title } as Piece);

describe('the queue of what is done by hand', () => {
  it('does the first act at once, from the piece as it is', () => {
    const acts = new Acts();
    const now = at('now');
    expect(acts.begin(press(1), now)).toBe(true);
    expect(acts.doing).toEqual({ acts: press(1), base: now });
  });

  it('lets presses of keys wait for their turn, and leaves none out', () => {
    const acts = new Acts();
    const now = at('now');
    acts.begin(press(1), now);
    expect(acts.begin(press(2), now)).toBe(false);
    expect(acts.begin(press(3), now)).toBe(false);
    expect(acts.next()).toBeUndefined();
    for (const by of [2, 3]) {
      expect(acts.answered(acts.doing)).toBe(true);
      const waiting = acts.next();
      expect(waiting).toEqual(press(by));
      acts.begin(waiting!, at(`after ${by - 1}`));
      expect(acts.doing?.base.piece.title).toBe(`after ${by - 1}`);
    }
  });

  it('of a pull takes the newest, always from where it began', () => {
    const acts = new Acts();
    const begun = at('begun');
    acts.begin(press(1), at('now'), begun, false);
    const first = acts.doing;
    acts.begin(press(2), at('later'), begun, false);
    expect(acts.doing).toEqual({ acts: press(2), base: begun });
    expect(acts.answered(first)).toBe(false);
    expect(acts.answered(acts.doing)).toBe(true);
    expect(acts.doing).toBeUndefined();
  });

  it('gives a figure that is typed during a pull to the pull as well', () => {
    const acts = new Acts();
    const begun = at('begun');
    acts.begin(press(1), begun, begun, false);
    acts.change((piece) => ({ ...piece, title: `${piece.title}, typed` }));
    expect(acts.doing?.base.piece.title).toBe('begun, typed');
    acts.begin(press(2), at('x'), begun, false);
    expect(acts.doing?.base.piece.title).toBe('begun, typed');
    const same = acts.doing?.base;
    acts.begin(press(3), at('x'), begun, false);
    expect(acts.doing?.base).toBe(same);
    acts.begin(press(4), at('x'), begun);
    expect(acts.doing?.base.piece.title).toBe('begun, typed');
    // The next pull begins from what there is then.
    acts.answered(acts.doing);
    acts.begin(press(5), at('x'), at('anew'), false);
    expect(acts.doing?.base.piece.title).toBe('anew');
  });

  it('forgets what waits when it is left off', () => {
    const acts = new Acts();
    acts.begin(press(1), at('now'));
    acts.begin(press(2), at('now'));
    acts.leaveOff();
    expect([acts.doing, acts.next()]).toEqual([undefined, undefined]);
  });
});
