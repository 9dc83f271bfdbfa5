import { describe, expect, it } from 'vitest';
import type { Piece } from '../api/client';
import { wrongWords } from './words';

const piece = {
  guides: [{ id: 'upper-edge', kind: 'circle' }],
  letterings: [{ id: 'a', text: 'OLD BARN' }, { id: 'b', text: '' }],
} as unknown as Piece;

describe('what is wrong, in words', () => {
  it.each([
    ['letterings[0].height', '“OLD BARN”, height: no'],
    ['letterings[0].fit.margin', '“OLD BARN”, fit margin: no'],
    ['letterings[1].prepare.borders[0].distance', 'this lettering, prepare borders 1 distance: no'],
    ['guides[0].corner_radius', 'Upper edge, corner radius: no'],
    ['blank.diameter', 'blank diameter: no'],
    ['run.passes[1].kerf[0].width', 'pass 2, kerf 1 width: no'],
    ['solid.relief.by', 'relief by: no'],
    ['', 'No'],
  ])('%s', (field, said) => {
    expect(wrongWords({ field, reason: 'no' }, piece)).toBe(said);
  });
});
