/**
 * What is being done by hand, until the core has said what comes of it.
 *
 * A pull is absolute: from how the piece was when it began, and the newest one wins. What has
 * no such base, as a press of a key, starts from the piece as it is when its turn comes, and
 * none is left out. A figure that is typed meanwhile changes the base as well.
 */

import type { Act } from '../api/client';
import type { Change, Snapshot } from './snapshot';

export interface Doing {
  /** Done one after another, as one change. */
  readonly acts: readonly Act[];
  readonly base: Snapshot;
}

export class Acts {
  /** What the core is working on; nothing once it has answered. */
  doing: Doing | undefined;
  #queued: (readonly Act[])[] = [];
  /** Changes made since something was taken hold of: its base is from before them. */
  #meanwhile: Change[] = [];
  #holding = false;
  #from: { base: Snapshot; changes: number; snapshot: Snapshot } | undefined;

  /** Do something; whether it is to be asked for now, and does not wait for its turn. */
  begin(acts: readonly Act[], now: Snapshot, base?: Snapshot, last = true): boolean {
    if (!base && this.doing) {
      this.#queued.push(acts);
      return false;
    }
    if (!this.#holding) this.#meanwhile = [];
    this.#holding = !last;
    this.doing = { acts, base: base ? this.#since(base) : now };
    if (last) this.#meanwhile = [];
    return true;
  }

  /** The document was changed otherwise. */
  change(change: Change): void {
    if (this.#holding) this.#meanwhile.push(change);
    if (this.doing) this.doing = { acts: this.doing.acts, base: this.doing.base.changed(change) };
  }

  /** What was asked for has been answered; whether that is still what is being done. */
  answered(doing: Doing | undefined): boolean {
    if (!doing || doing !== this.doing) return false;
    this.doing = undefined;
    return true;
  }

  /** What waits for its turn, once nothing is being done. */
  next(): readonly Act[] | undefined {
    return this.doing ? undefined : this.#queued.shift();
  }

  /** What is held has been let go of. */
  letGo(): void {
    this.#holding = false;
  }

  leaveOff(): void {
    this.doing = undefined;
    this.#queued = [];
    this.#meanwhile = [];
  }

  /** The base with what was changed since; the same one for the same changes. */
  #since(base: Snapshot): Snapshot {
    const changes = this.#meanwhile.length;
    if (!changes) return base;
    const known = this.#from;
    if (known?.base === base && known.changes === changes) return known.snapshot;
    const snapshot = this.#meanwhile.reduce((from, change) => from.changed(change), base);
    this.#from = { base, changes, snapshot };
    return snapshot;
  }
}
