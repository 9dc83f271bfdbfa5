import { fireEvent, render, screen } from '@testing-library/svelte';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { setFigure } from '../words/figures.svelte';
import DimensionFigure from './DimensionFigure.svelte';

vi.mock('../words/figures.svelte', async (original) => ({
  ...(await original<object>()),
  setFigure: vi.fn(async (typed: string, _: string, __: number, set: (value: number) => void) => {
    set(Number(typed));
    return '';
  }),
}));

const dimension = { field: 'diameter', label: 'Diameter', value: 240, unit: 'mm', sign: '⌀ ', solved: false };

describe('a figure on the drawing', () => {
  const onset = vi.fn();

  beforeEach(async () => {
    vi.clearAllMocks();
    document.body.replaceChildren();
    render(DimensionFigure, { dimension: dimension as never, at: [0, 0] as const, onset });
    await fireEvent.click(screen.getByRole('button'));
    await fireEvent.input(screen.getByRole('textbox'), { target: { value: '260' } });
  });

  it('is set by Enter', async () => {
    await fireEvent.keyDown(screen.getByRole('textbox'), { key: 'Enter' });
    expect(onset).toHaveBeenCalledWith(260);
  });

  it('is given up by Escape, though the field loses focus as it goes', async () => {
    const field = screen.getByRole('textbox');
    await fireEvent.keyDown(field, { key: 'Escape' });
    await fireEvent.blur(field);
    expect(setFigure).not.toHaveBeenCalled();
    expect(onset).not.toHaveBeenCalled();
    expect(screen.getByRole('button').textContent).toContain('240');
  });
});
