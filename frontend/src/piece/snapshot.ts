/** A piece as it is at one time, and the server's name for its document once it has said one. */

import type { Piece } from '../api/client';

export class Snapshot {
  constructor(
    readonly piece: Piece,
    /** By which the server knows the document, so that it need not be sent again. */
    public hash?: string,
  ) {}

  changed(change: Change): Snapshot {
    return new Snapshot(change(this.piece));
  }
}

export type Change = (piece: Piece) => Piece;
