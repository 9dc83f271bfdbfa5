/**
 * The live channel's client: one request on its way, one slot that waits.
 *
 * A request that comes while another is on its way takes the place of any that
 * waits. A lost connection is opened again with the newest request; a request that
 * is not answered in time counts as a lost connection. While something is held, what
 * moves comes first; the next request leaves then, and the scene may follow.
 */

import type { LiveAnswer, LiveRequest, Moved } from '../api/client';

export type Unnumbered = Omit<LiveRequest, 'sequence'>;

const WATCHDOG_MS = 4000;
const SHORTEST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 4000;

export class Channel {
  #socket: WebSocket | undefined;
  #sequence = 0;
  #onItsWay: { sequence: number; request: Unnumbered } | undefined;
  /** What has moved already, and whose scene may follow. */
  #followed: { sequence: number; request: Unnumbered } | undefined;
  #waiting: Unnumbered | undefined;
  #newest: Unnumbered | undefined;
  #watchdog: ReturnType<typeof setTimeout> | undefined;
  #wait = SHORTEST_WAIT_MS;
  #closed = false;

  constructor(
    private readonly onAnswer: (answer: LiveAnswer, request: Unnumbered) => void,
    private readonly onMoved: (moved: Moved) => void,
    private readonly onState: (connected: boolean) => void,
  ) {
    this.#open();
  }

  send(request: Unnumbered): void {
    this.#newest = request;
    if (this.#onItsWay !== undefined || this.#socket?.readyState !== WebSocket.OPEN) {
      this.#waiting = request;
      return;
    }
    this.#waiting = undefined;
    this.#sequence += 1;
    this.#onItsWay = { sequence: this.#sequence, request };
    this.#socket.send(JSON.stringify({ sequence: this.#sequence, ...request }));
    this.#watchdog = setTimeout(() => this.#socket?.close(), WATCHDOG_MS);
  }

  /** Whether nothing is on its way and nothing waits. */
  get idle(): boolean {
    return [this.#onItsWay, this.#followed, this.#waiting].every((one) => one === undefined);
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#watchdog);
    this.#socket?.close();
  }

  #open(): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/live`);
    this.#socket = socket;
    socket.onopen = () => {
      this.#wait = SHORTEST_WAIT_MS;
      this.#onItsWay = undefined;
      this.#followed = undefined;
      this.onState(true);
      const next = this.#waiting ?? this.#newest;
      if (next) this.send(next);
    };
    socket.onmessage = (event: MessageEvent<string>) => this.#take(JSON.parse(event.data));
    socket.onclose = () => {
      clearTimeout(this.#watchdog);
      if (this.#closed) return;
      this.onState(false);
      setTimeout(() => this.#open(), this.#wait);
      this.#wait = Math.min(2 * this.#wait, LONGEST_WAIT_MS);
    };
  }

  #take(answer: LiveAnswer): void {
    const followed = this.#followed;
    if (followed && answer.sequence === followed.sequence) {
      this.#followed = undefined;
      this.onAnswer(answer, followed.request);
      return;
    }
    const sent = this.#onItsWay;
    if (!sent || (answer.sequence !== sent.sequence && answer.sequence !== -1)) return;
    clearTimeout(this.#watchdog);
    this.#onItsWay = undefined;
    this.#followed = answer.moved ? sent : undefined;
    // The next request leaves before this answer is painted, so that both overlap.
    if (this.#waiting) this.send(this.#waiting);
    if (answer.moved) this.onMoved(answer.moved);
    else this.onAnswer(answer, sent.request);
  }
}
