import { describe, expect, it } from 'vitest';
import type { RunSheet } from '../api/client';
import { changedPass, movedPass, toggled } from './sheet';

const sheet = {
  passes: [
    { id: 'draw', tool: 'pen', works: [{ what: 'draw' }] },
    { id: 'cut', tool: 'blade', works: [{ what: 'cut' }] },
  ],
} as unknown as RunSheet;

describe('a run sheet', () => {
  it('is changed pass by pass', () => {
    const changed = changedPass(sheet, 'cut', { repeats: 2 });
    expect(changed.passes.map((one) => one.repeats)).toEqual([undefined, 2]);
    expect(sheet.passes[1]!.repeats).toBeUndefined();
  });

  it('has its passes moved, not beyond its ends', () => {
    expect(movedPass(sheet, 'cut', -1).passes.map((one) => one.id)).toEqual(['cut', 'draw']);
    expect(movedPass(sheet, 'cut', 1)).toBe(sheet);
    expect(movedPass(sheet, 'nothing', 1)).toBe(sheet);
  });
});

describe('what a pass works on', () => {
  it('is chosen one by one, and never nothing', () => {
    const letters = { what: 'letters', of: 't' } as const;
    const both = toggled([{ what: 'edge', of: '' }], letters);
    expect(both).toHaveLength(2);
    expect(toggled(both, { what: 'edge', of: '' })).toEqual([letters]);
    expect(toggled([letters], letters)).toEqual([letters]);
  });
});
