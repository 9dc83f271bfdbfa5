/** What the core makes of the piece: asked for at every change, shown as it answers. */

import { SvelteMap } from 'svelte/reactivity';
import type { LiveAnswer, Moved, NameRow, Scene, WrongField } from '../api/client';
import { Channel, type Written } from './channel';
import type { Doing } from './acts';
import type { Snapshot } from './snapshot';

/** A piece to be laid out, and what of it is looked at. */
export interface Asking {
  readonly at: Snapshot;
  readonly doing: Doing | undefined;
  readonly chosen: string | null;
  readonly node: number | null;
  readonly marks: (number | [number, number])[];
  readonly hold: boolean;
  /** A lettering that is shown as its face spaces it. */
  readonly byFace: string | null;
  /** The row of the list whose words are shown in place of the fields, and its place. */
  readonly sample: readonly NameRow[];
  readonly row: number | null;
}

/** An answer that takes longer than this is waited for in sight. */
const PATIENCE_MS = 300;

export class Live {
  scene = $state.raw<Scene>();
  /** The last whole scene, for what stands round the drawing: `scene` moves on before it. */
  around = $state.raw<Scene>();
  shapes = new SvelteMap<string, string>();
  problems = $state.raw<WrongField[]>([]);
  connected = $state(false);
  /** Whether an answer has been waited for so long that it is said. */
  busy = $state(false);
  #waiting: ReturnType<typeof setTimeout> | undefined;
  #channel: Channel<Asking>;

  constructor(
    private readonly onAnswer: (answer: LiveAnswer, asked: Asking) => void,
    private readonly onConnected: () => void,
  ) {
    this.#channel = new Channel<Asking>({
      write: written,
      onAnswer: (answer, asked) => this.#answered(answer, asked),
      onMoved: (answer, asked) => {
        named(answer, asked);
        if (answer.moved) this.#move(answer.moved);
      },
      onState: (connected) => {
        this.connected = connected;
        if (connected) this.onConnected();
      },
    });
  }

  ask(asking: Asking): void {
    this.#waiting ??= setTimeout(() => (this.busy = true), PATIENCE_MS);
    this.#channel.send(asking);
  }

  get idle(): boolean {
    return this.#channel.idle;
  }

  #noLongerBusy(): void {
    if (!this.idle) return;
    clearTimeout(this.#waiting);
    this.#waiting = undefined;
    this.busy = false;
  }

  close(): void {
    clearTimeout(this.#waiting);
    this.#channel.close();
  }

  #answered(answer: LiveAnswer, asked: Asking): void {
    if (answer.unknown) {
      // The server has forgotten the document: it is sent whole.
      asked.at.hash = undefined;
      this.#channel.again();
      return;
    }
    named(answer, asked);
    for (const [name, data] of Object.entries(answer.shapes ?? {})) this.shapes.set(name, data);
    this.problems = answer.problems ?? [];
    if (answer.scene) {
      this.scene = answer.scene;
      this.around = answer.scene;
    }
    this.#noLongerBusy();
    this.onAnswer(answer, asked);
  }

  /** Where guides and letters are while something is held; the whole scene follows. */
  #move(moved: Moved): void {
    if (!this.scene) return;
    const guides = this.scene.guides.map((guide) => {
      const path = moved.guides[guide.id];
      return path === undefined || path === guide.path ? guide : { ...guide, path };
    });
    const letterings = this.scene.letterings.map((line) => {
      const now = moved.lines.find((one) => one.id === line.id && one.line === line.line);
      // Other letters than before are shown once their outlines have come.
      const same =
        now?.matrices.length === line.matrices.length && now.outlines.length === line.outlines.length;
      return same ? { ...line, ...now } : line;
    });
    const grips = this.scene.grips.map((grip) => {
      const at = moved.grips[grip.name];
      return !at || (at[0] === grip.at[0] && at[1] === grip.at[1]) ? grip : { ...grip, at };
    });
    this.scene = { ...this.scene, guides, letterings, grips, dimensions: moved.dimensions };
  }
}

/** A request: the document by its hash where the server knows it, or whole. */
function written(asking: Asking): Written {
  const { at } = asking;
  return {
    ...(at.hash ? { base: at.hash } : { piece: { ...at.piece } }),
    chosen: asking.chosen,
    marks: asking.marks,
    node: asking.node,
    hold: asking.hold,
    by_face: asking.byFace,
    sample: [...asking.sample],
    acts: [...(asking.doing?.acts ?? [])],
  };
}

/** The server has said by which name it knows the document. */
function named(answer: LiveAnswer, asked: Asking): void {
  if (answer.base) asked.at.hash = answer.base;
}
