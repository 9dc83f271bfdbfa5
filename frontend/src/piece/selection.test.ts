import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Selection } from './selection.svelte';

const onchange = vi.fn();
let selection: Selection;

beforeEach(() => {
  onchange.mockReset();
  selection = new Selection(onchange);
  selection.choose({ kind: 'lettering', id: 'name' });
});

describe('choosing', () => {
  it('lets go of letters, points and places of what was chosen before', () => {
    selection.chooseLetter(2);
    selection.mark(10);
    selection.choose({ kind: 'guide', id: 'rim' });
    expect([selection.id, selection.letters, selection.marks, selection.node]).toEqual(['rim', [], [], undefined]);
    expect(onchange).toHaveBeenCalled();
    selection.choose({ kind: 'blank' });
    expect(selection.id).toBeUndefined();
  });

  it('takes up letters in the order of the words, and leaves them out again', () => {
    selection.chooseLetter(4);
    selection.chooseLetter(1, true);
    expect(selection.letters).toEqual([1, 4]);
    selection.chooseLetter(4, true);
    expect(selection.letters).toEqual([1]);
    selection.chooseLetter(3);
    expect(selection.letters).toEqual([3]);
    selection.chooseLabel(2);
    expect([selection.letters, selection.label]).toEqual([[], 2]);
    selection.chooseLetter(0);
    expect(selection.label).toBeUndefined();
  });

  it('takes up more than one, leaves one out again, and says which was last', () => {
    const [name, year] = [{ kind: 'lettering', id: 'name' }, { kind: 'lettering', id: 'year' }] as const;
    const rim = { kind: 'guide', id: 'rim' } as const;
    expect(selection.several).toBe(false);
    selection.chooseMore(year);
    selection.chooseMore(rim);
    expect([selection.chosen, selection.entries, selection.several]).toEqual([rim, [name, year, rim], true]);
    selection.chooseMore(rim);
    expect([selection.chosen, selection.entries]).toEqual([year, [name, year]]);
    // A name alone does not say which: a guide may have the id of a lettering.
    expect(selection.isChosen({ kind: 'guide', id: 'name' })).toBe(false);
    selection.chooseMore(name);
    expect([selection.entries, selection.several]).toEqual([[year], false]);
    // The blank is chosen alone.
    selection.chooseMore(rim);
    selection.choose({ kind: 'blank' });
    expect(selection.entries).toEqual([]);
    selection.chooseMore(rim);
    expect(selection.entries).toEqual([rim]);
  });

  it('takes what was made, and types words only where they are the only thing new', () => {
    const pair = [{ kind: 'guide', id: 'ring' }, { kind: 'lettering', id: 'motto' }] as const;
    selection.chooseMade(pair);
    expect([selection.entries, selection.fresh]).toEqual([pair, undefined]);
    selection.chooseMade([pair[1]]);
    expect([selection.entries, selection.fresh]).toEqual([[pair[1]], 'motto']);
  });

  it('tells the core only of what it shows', () => {
    onchange.mockReset();
    selection.chooseLetter(1);
    selection.node = undefined;
    selection.before = false;
    expect(onchange).not.toHaveBeenCalled();
    selection.node = 3;
    selection.before = true;
    expect(onchange).toHaveBeenCalledTimes(2);
  });

  it('measures between the last two places, and forgets them with the tool', () => {
    selection.take('measure');
    for (const place of [1, 2, 3]) selection.mark(place);
    expect(selection.marks).toEqual([2, 3]);
    selection.take('choose');
    expect(selection.marks).toEqual([]);
  });
});

describe('stepping back', () => {
  it('goes from tool to letters to lettering to guide to nothing', () => {
    selection.chooseLetter(1);
    selection.take('measure');
    selection.stepBack('rim');
    expect([selection.tool, selection.letters]).toEqual(['choose', [1]]);
    selection.stepBack('rim');
    expect([selection.letters, selection.id]).toEqual([[], 'name']);
    selection.stepBack('rim');
    expect(selection.chosen).toEqual({ kind: 'guide', id: 'rim' });
    selection.node = 2;
    selection.stepBack(undefined);
    expect([selection.node, selection.id]).toEqual([undefined, 'rim']);
    selection.stepBack(undefined);
    expect(selection.chosen).toBeUndefined();
  });

  it('goes from several to the last of them first', () => {
    selection.chooseMore({ kind: 'lettering', id: 'year' });
    selection.stepBack('rim');
    expect(selection.entries).toEqual([{ kind: 'lettering', id: 'year' }]);
  });
});
