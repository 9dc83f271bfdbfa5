/** What mends findings whose remedies must be tried: asked for apart, while nothing moves. */

import { catalogue } from '../api/catalogue';
import { api, asDocument, type Finding, type Piece, type Remedy } from '../api/client';

const PAUSE_MS = 250;

export class Remedies {
  /** By what is said: the same words have the same remedies. */
  #tried = $state.raw<Record<string, Remedy[]>>({});

  of(finding: Finding): Remedy[] {
    return [...(finding.remedies ?? []), ...(this.#tried[keyOf(finding)] ?? [])];
  }

  /** Ask for those that are not known yet, after a pause; what leaves off asking. */
  tryAll(findings: readonly Finding[], piece: Piece): () => void {
    const wanted = findings.filter(
      (one) => catalogue().tried.includes(one.kind) && !this.#tried[keyOf(one)],
    );
    const timer = setTimeout(() => wanted.forEach((one) => void this.#try(one, piece)), PAUSE_MS);
    return () => clearTimeout(timer);
  }

  async #try(finding: Finding, piece: Piece): Promise<void> {
    const body = { piece: asDocument(piece), kind: finding.kind, lettering: finding.lettering };
    const answer = await api.POST('/api/remedies', { body }).catch(() => undefined);
    if (answer?.data) this.#tried = { ...this.#tried, [keyOf(finding)]: answer.data as Remedy[] };
  }
}

const keyOf = (finding: Finding) => `${finding.kind} ${finding.lettering} ${finding.message}`;
