/** Figures on the drawing, all placed together: off letters, and off each other. */

import type { Dimension, Output } from '../api/client';
import type { Editor } from '../piece/editor.svelte';
import { alongIt, figureOf, freeLine, isPoint, type DimensionLine } from './free_lines';
import { freePlaces, spotsOf, type Place, type Spot, type Wanted } from './free_places';
import type { Viewport } from './viewport.svelte';

const LEADER = 46;
const CLEAR = 26;
const DIGIT = 8;
const BADGE = 7;
const GRIP = 12;

/** How high the bar below the drawing is that says what of it is seen, px. */
const VIEW_BAR = 32;

/** A dimension with its line, and where its figure stands. */
export interface ShownDimension extends DimensionLine {
  dimension: Dimension;
  at: Place;
}

/** Where a line of the chosen lettering ends on an open guide, and how far that is from its end. */
export interface ShownEnding {
  line: number;
  last: Place;
  left: number;
  at: Place;
}

/** The letter that says what becomes of a guide's own line. */
export interface Badge {
  guide: string;
  output: Output;
  at: Place;
}

export class Figures {
  /** Guides that are lines of their own, and what becomes of them. */
  readonly outputs = $derived.by(
    () => new Map(this.editor.piece.guides.flatMap((one) => (one.output ? [[one.id, one.output]] : []))),
  );
  readonly #letters = $derived.by(() => spotsOf(this.editor.live.around?.letterings ?? [], this.view));
  /** What is pulled by hand: a figure over it would be in the way. */
  readonly #grips = $derived.by((): Spot[] =>
    (this.editor.live.scene?.grips ?? []).map(({ at }) => [...this.view.toScreen(at), GRIP]),
  );
  readonly #dimensions = $derived.by(() => this.#wantedDimensions());
  readonly #endings = $derived.by(() => this.#wantedEndings());
  readonly #badges = $derived.by(() => this.#wantedBadges());
  readonly #places = $derived.by(() => {
    const wanted: Wanted[] = [
      ...this.#dimensions.map((one) => ({ at: one.at, half: [widthOf(one.dimension) / 2, CLEAR / 2] as const })),
      ...this.#endings.map((one) => ({ at: one.at, half: [32, 8] as const })),
      ...this.#badges.map((one) => ({ at: one.at, half: [BADGE, BADGE] as const })),
    ];
    return freePlaces(wanted, [...this.#letters, ...this.#grips], [this.view.width, this.view.height - VIEW_BAR]);
  });
  /** The dimensions of the blank and of what is chosen. */
  readonly dimensions = $derived.by(() => this.#placed(this.#dimensions, 0));
  readonly endings = $derived.by(() => this.#placed(this.#endings, this.#dimensions.length));
  readonly badges = $derived.by(() =>
    this.#placed(this.#badges, this.#dimensions.length + this.#endings.length),
  );

  constructor(
    private readonly editor: Editor,
    private readonly view: Viewport,
  ) {}

  #placed<Figure extends { at: Place }>(figures: readonly Figure[], from: number): Figure[] {
    return figures.map((one, index) => ({ ...one, at: this.#places[from + index] ?? one.at }));
  }

  #wantedDimensions(): ShownDimension[] {
    const { editor, view } = this;
    if (!editor.selection.figures) return [];
    const mine = { guide: editor.guide?.id, lettering: editor.lettering?.id };
    return (editor.live.scene?.dimensions ?? [])
      .filter(({ of, owner }) => of === 'blank' || owner === mine[of])
      .map((dimension) => {
        const ends = { start: view.toScreen(dimension.start), end: view.toScreen(dimension.end) };
        const off = isPoint(ends) ? 'left' : dimension.off;
        const line = freeLine(ends.start, ends.end, off, dimension.at, this.#letters, this.#grips);
        return { dimension, ...line, at: figureAt(dimension, line) };
      });
  }

  #wantedEndings(): ShownEnding[] {
    const chosen = this.editor.lettering?.id;
    return (this.editor.live.scene?.letterings ?? []).flatMap(({ id, last, line, matrices }) => {
      if (!last || id !== chosen) return [];
      const [x, y] = this.view.toScreen(last.at);
      // On the side away from the words.
      const before = (matrices.at(-2) ?? -Infinity) > last.at[0];
      return [{ line, last: last.at, left: last.left, at: before ? [x - 42, y] : [x + 42, y + 10] }];
    });
  }

  #wantedBadges(): Badge[] {
    return (this.editor.live.scene?.guides ?? []).flatMap(({ id, shown, label_at }) => {
      const output = this.outputs.get(id);
      return shown && output ? [{ guide: id, output, at: this.view.toScreen(label_at) }] : [];
    });
  }
}

/** Where the figure of a dimension belongs: on its line, or beside what the line points at. */
function figureAt(dimension: Dimension, line: DimensionLine): Place {
  if (line.outward) return figureOf(line);
  if (isPoint(line)) return [line.end[0] + LEADER, line.end[1] + 14];
  const [x, y] = alongIt(line, dimension.at);
  if (dimension.of !== 'lettering') return [x, y];
  return [x - LEADER, y + (dimension.field === 'height' ? -10 : 24)];
}

const widthOf = (one: Dimension): number => DIGIT * (one.value.toFixed(3).length + (one.solved ? 6 : 3));
