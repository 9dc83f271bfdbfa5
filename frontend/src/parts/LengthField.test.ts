import { cleanup, fireEvent, render, screen } from '@testing-library/svelte';
import { tick } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../api/client';
import { figures, holdClick } from '../words/figures.svelte';
import LengthField from './LengthField.svelte';

const get = vi.spyOn(api, 'GET');
const onset = vi.fn();

/** The server's reading of what is typed. */
function understood(text: string, value: number): void {
  get.mockImplementationOnce((async (_: string, { params }: { params: { query: { text: string } } }) => {
    expect(params.query.text).toBe(text);
    return { data: { value } };
  }) as never);
}

function field(props: object = {}): HTMLInputElement {
  render(LengthField, { label: 'Height', value: 18, onset, ...props });
  return screen.getByLabelText('Height') as HTMLInputElement;
}

async function type(input: HTMLInputElement, text: string): Promise<void> {
  await fireEvent.input(input, { target: { value: text } });
  await fireEvent.keyDown(input, { key: 'Enter' });
  await figures.settled();
  await Promise.resolve();
}

beforeEach(() => {
  get.mockReset();
  onset.mockReset();
});

afterEach(cleanup);

describe('the field of a figure', () => {
  it('sets what the server understands', async () => {
    const input = field();
    expect(input.value).toBe('18');
    understood('3/8in', 9.525);
    await type(input, '3/8in');
    expect(onset.mock.calls).toEqual([[9.525]]);
  });

  it('asks nothing where nothing was changed', async () => {
    await type(field(), '18');
    expect([get.mock.calls.length, onset.mock.calls.length]).toEqual([0, 0]);
  });

  it('keeps what is no figure, and says why', async () => {
    const input = field();
    get.mockResolvedValueOnce({ error: { detail: '“zwei” is no figure' } } as never);
    await type(input, 'zwei');
    expect(onset).not.toHaveBeenCalled();
    expect(await screen.findByText('“zwei” is no figure')).toBeTruthy();
    expect([input.value, figures.wrong]).toEqual(['zwei', 1]);
    await fireEvent.keyDown(input, { key: 'Escape' });
    await tick();
    expect([input.value, figures.wrong]).toEqual(['18', 0]);
  });

  it('says that the server does not answer', async () => {
    get.mockRejectedValueOnce(new TypeError('no network'));
    await type(field(), '20');
    expect(await screen.findByText(/does not answer/)).toBeTruthy();
  });

  it('keeps a click waiting that comes before a figure is understood', async () => {
    const press = vi.fn(() => expect(onset).toHaveBeenCalledWith(300));
    const button = document.body.appendChild(document.createElement('button'));
    button.addEventListener('click', press);
    document.addEventListener('click', holdClick, true);
    const input = field();
    let arrive = (_: object) => {};
    get.mockReturnValueOnce(new Promise((resolve) => (arrive = resolve)) as never);
    await fireEvent.input(input, { target: { value: '300' } });
    await fireEvent.keyDown(input, { key: 'Enter' });
    await fireEvent.click(button);
    await fireEvent.click(button);
    expect(press).not.toHaveBeenCalled();
    arrive({ data: { value: 300 } });
    await new Promise((later) => setTimeout(later));
    expect(press).toHaveBeenCalledTimes(1);
    await fireEvent.click(button);
    expect(press).toHaveBeenCalledTimes(2);
    document.removeEventListener('click', holdClick, true);
    button.remove();
  });

  it('shows shares as percents, and steps by a tenth of what is shown', async () => {
    const input = field({ value: 0.25, shownAs: 100, unit: '%' });
    expect(input.value).toBe('25');
    understood('30', 30);
    await type(input, '30');
    await fireEvent.keyDown(input, { key: 'ArrowUp' });
    await fireEvent.keyDown(input, { key: 'ArrowDown', shiftKey: true });
    expect(onset.mock.calls).toEqual([[0.3], [0.251], [0.24]]);
  });

  it('may be emptied where the figure can be left to the core', async () => {
    const onclear = vi.fn();
    await type(field({ onclear }), ' ');
    expect([onclear.mock.calls.length, onset.mock.calls.length, get.mock.calls.length]).toEqual([1, 0, 0]);
    cleanup();
    expect(field({ value: null, empty: 'as large as fits' }).placeholder).toBe('as large as fits');
  });
});
