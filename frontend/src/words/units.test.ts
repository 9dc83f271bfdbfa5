import { afterEach, describe, expect, it } from 'vitest';
import { exactLength, length, said, units } from './units.svelte';

afterEach(() => (units.shown = 'mm'));

describe('lengths', () => {
  it('are as they are kept in mm', () => {
    expect([length(12.5), length(1 / 3), exactLength(2, 3)]).toEqual(['12.5', '0.333', '2.000']);
    expect(said('4.2 mm over')).toBe('4.2 mm over');
  });

  it('are inches of 25.4 mm', () => {
    units.shown = 'inch';
    expect([length(304.8), length(12.7), length(-1)]).toEqual(['12', '0.5', '-0.0394']);
    expect(units.sign).toBe('in');
  });

  it('are fractions where they are exactly that', () => {
    units.shown = 'fraction';
    expect([length(34.925), length(0.396875), length(304.8), length(-9.525)]).toEqual([
      '1 3/8', '1/64', '12', '-3/8',
    ]);
    expect(length(10)).toBe('0.3937');
  });

  it('in words are changed too, but not in what a person wrote', () => {
    units.shown = 'inch';
    expect(said('“bolt 12 mm” is 25.4 mm too long: rectangle 50.8 × 25.4 mm, 3 mm²')).toBe(
      '“bolt 12 mm” is 1 in too long: rectangle 2 × 1 in, 3 mm²',
    );
    expect(said('−25.4 mm a gap')).toBe('-1 in a gap');
  });
});
