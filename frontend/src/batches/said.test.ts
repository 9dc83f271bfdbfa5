import { describe, expect, it } from 'vitest';
import type { BatchSummary } from '../api/client';
import { progressWords, share, takeable } from './said';

const batch = (changed: Partial<BatchSummary>): BatchSummary => ({
  id: 'b', piece_id: 'p', title: 'Tags', what: 'SVG, a file each', alone: false, nested: false, state: 'running', stage: 'rows', reason: '',
  rows: 120, measured: 0, made: 0, fit: 0, lost: 0, sheets: 0, written: 0, offcuts: 0, least: 0, filled: 0,
  made_at: '2026-11-29T09:00:00Z', ended_at: null, ...changed,
});

describe('what is said of a batch', () => {
  it('counts what is made, and what does not fit', () => {
    expect(progressWords(batch({ made: 84, fit: 81 }))).toBe('84 of 120 rows made · 3 do not fit');
    expect(progressWords(batch({ stage: 'heights', measured: 7 }))).toBe('one height: 7 of 120 rows measured');
    expect(share(batch({ made: 30 }))).toBe(0.25);
  });

  it('says the sheets beside the fewest that any way takes', () => {
    const done = batch({ state: 'done', stage: 'end', made: 120, fit: 120, what: 'sheets of 600 × 400 mm', nested: true, sheets: 3, written: 3, least: 2, filled: 0.71 });
    expect(progressWords(done)).toBe('120 of 120 rows made · 3 sheets (71 % used, no way takes fewer than 2)');
    expect(takeable(done)).toBe(true);
    expect(progressWords({ ...done, offcuts: 1, written: 2 })).toBe('120 of 120 rows made · 1 off-cut and 2 sheets, 2 written (71 % used)');
    expect(progressWords({ ...done, sheets: 1, offcuts: 1, written: 1, least: 0 })).toContain('· 1 off-cut (71 % used)');
    expect(takeable(batch({ nested: true, made: 5, fit: 5 }))).toBe(false);
  });

  it('says of one file whether it is there, and whether it is sound', () => {
    const one = batch({ alone: true, rows: 1, what: 'STL, as the piece stands' });
    expect([progressWords(one), takeable(one)]).toEqual(['being made', false]);
    const made = { ...one, state: 'done', made: 1 } as const;
    expect([progressWords({ ...made, fit: 1 }), takeable(made)]).toEqual(['made', true]);
    expect(progressWords(made)).toBe('made, and not sound: its proof has faults');
  });

  it('keeps to the reason where it could not be made', () => {
    expect(progressWords(batch({ state: 'failed', reason: 'part 3 does not go on a sheet' }))).toBe('part 3 does not go on a sheet');
  });
});
