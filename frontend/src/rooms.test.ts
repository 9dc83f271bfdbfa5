/** The page's rooms: each may use those before it, and none beside it or after it. */

import { describe, expect, it } from 'vitest';

const LEVELS = [
  ['api'],
  ['words'],
  ['parts'],
  ['piece'],
  ['shell'],
  ['drawing'],
  ['strip'],
  ['particulars', 'contents', 'prepare'],
  ['rehearsal'],
  ['batches'],
  ['layout', 'names', 'proof', 'run', 'shelf', 'solid', 'stitches'],
];

const sources = import.meta.glob<string>(['./**/*.{ts,svelte}', '!./**/*.test.ts'], {
  eager: true,
  query: '?raw',
  import: 'default',
});

/** The files that a file imports, types included. */
function importsOf(file: string): string[] {
  const found = (sources[file] ?? '').matchAll(/(?:from|import) '(\.[^']+)'/g);
  return [...found].map(([, name]) => {
    const path = new URL(name!, `file:///${file}`).pathname.slice(1);
    const full = [path, `${path}.ts`].find((one) => `./${one}` in sources);
    return `./${full ?? path}`;
  });
}

const roomOf = (file: string) => file.split('/').length > 2 ? file.split('/')[1]! : '';
const levelOf = (room: string) => LEVELS.findIndex((rooms) => rooms.includes(room));

describe('the rooms of the page', () => {
  const files = Object.keys(sources);

  it('are all in order', () => {
    expect(files.length).toBeGreaterThan(50);
    const rooms = new Set(files.map(roomOf).filter(Boolean));
    expect([...rooms].sort()).toEqual(LEVELS.flat().sort());
  });

  it('use only what comes before them', () => {
    const wrong = files.flatMap((file) =>
      importsOf(file)
        .filter((used) => {
          const [mine, theirs] = [roomOf(file), roomOf(used)];
          return mine && mine !== theirs && levelOf(theirs) >= levelOf(mine);
        })
        .map((used) => `${file} uses ${used}`),
    );
    expect(wrong).toEqual([]);
  });

  it('have no files that use each other in a circle', () => {
    const done = new Set<string>();
    const visit = (file: string, way: string[]): void => {
      expect(way, `${[...way, file].join(' → ')}`).not.toContain(file);
      if (done.has(file)) return;
      for (const used of importsOf(file)) visit(used, [...way, file]);
      done.add(file);
    };
    for (const file of files) visit(file, []);
  });
});
