import { describe, expect, it } from 'vitest';
import { ending, nameOf, soon } from './taking';

describe('a file that is taken away', () => {
  it('has the name that the server gave it', () => {
    const given = `attachment; filename="Kesglow.svg"; filename*=UTF-8''K%C3%A9sgl%C3%B6w%20%E2%80%9C2%E2%80%9D.svg`;
    expect(nameOf(given)).toBe('Késglöw “2”.svg');
  });

  it('is spoken of by its ending', () => {
    expect(['export/svg?guides=true', 'solid/step'].map(ending)).toEqual(['SVG', 'STEP']);
  });

  it('is waited for no longer than a moment, and its work is given up then', async () => {
    let given_up = false;
    const never = (signal: AbortSignal) =>
      new Promise<string>((_, no) => signal.addEventListener('abort', () => ((given_up = true), no(new Error('aborted')))));
    expect(await soon(never, 5)).toBe('late');
    expect(given_up).toBe(true);
    expect(await soon(() => Promise.resolve('there'), 5)).toBe('there');
    expect(await soon(() => Promise.reject(new Error('offline')), 5)).toBeUndefined();
  });
});
