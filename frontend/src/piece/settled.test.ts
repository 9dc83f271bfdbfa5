import { describe, expect, it, vi } from 'vitest';
import { standsWrong } from '../words/figures.svelte';
import { settled } from './settled';

describe('what is begun with a piece', () => {
  it('waits until it is kept, and for no figure that stands wrong', async () => {
    const keeper = { keeping: { state: 'kept' }, saying: '', finish: vi.fn(async () => {}) };
    expect([await settled(keeper), keeper.saying]).toEqual([true, '']);
    const mended = standsWrong();
    expect(await settled(keeper)).toBe(false);
    expect(keeper.saying).toMatch('figure is not understood');
    expect(keeper.finish).toHaveBeenCalledTimes(1);
    mended();
    keeper.keeping.state = 'offline';
    expect(await settled(keeper)).toBe(false);
    expect(keeper.saying).toMatch('could not be kept');
  });
});
