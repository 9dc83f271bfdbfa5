/**
 * The live channel's client: every request is sent at once, and the newest answer counts.
 *
 * The server works on one request at a time and skips what has been overtaken by a newer
 * one, so that an answer settles all requests before its own. A lost connection is opened
 * again with the newest request; one that is neither answered nor said to be worked on in time
 * counts as a lost connection. While something is held, what moves comes first, and the scene may follow.
 */

import { page, type LiveAnswer, type LiveRequest } from '../api/client';

export type Written = Omit<LiveRequest, 'sequence'>;

export interface Listener<Request> {
  /** A request as it goes over the wire, when it goes. */
  write: (request: Request) => Written;
  onAnswer: (answer: LiveAnswer, request: Request) => void;
  onMoved: (answer: LiveAnswer, request: Request) => void;
  onState: (connected: boolean) => void;
}

const WATCHDOG_MS = 4000;
const SHORTEST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 4000;

export class Channel<Request> {
  #socket: WebSocket | undefined;
  #sequence = 0;
  /** Requests that are not settled, by their numbers, in order. */
  #open = new Map<number, Request>();
  #newest: Request | undefined;
  #watchdog: ReturnType<typeof setTimeout> | undefined;
  #wait = SHORTEST_WAIT_MS;
  #closed = false;

  constructor(private readonly listener: Listener<Request>) {
    this.#connect();
  }

  send(request: Request): void {
    this.#newest = request;
    this.#sequence += 1;
    this.#open.set(this.#sequence, request);
    if (this.#socket?.readyState !== WebSocket.OPEN) return;
    const written = { sequence: this.#sequence, ...this.listener.write(request) };
    this.#socket.send(JSON.stringify(written));
    this.#watch();
  }

  /** Send the newest request once more. */
  again(): void {
    if (this.#newest !== undefined) this.send(this.#newest);
  }

  /** Whether every request has been answered, or overtaken by one that has. */
  get idle(): boolean {
    return this.#open.size === 0;
  }

  close(): void {
    this.#closed = true;
    this.#unwatch();
    this.#socket?.close();
  }

  #connect(): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/live?page=${page}`);
    this.#socket = socket;
    socket.onopen = () => {
      this.#wait = SHORTEST_WAIT_MS;
      this.#open.clear();
      this.listener.onState(true);
      this.again();
    };
    socket.onmessage = (event: MessageEvent<string>) => this.#take(JSON.parse(event.data));
    socket.onclose = () => {
      this.#unwatch();
      if (this.#closed) return;
      this.listener.onState(false);
      setTimeout(() => this.#connect(), this.#wait);
      this.#wait = Math.min(2 * this.#wait, LONGEST_WAIT_MS);
    };
  }

  #watch(): void {
    this.#watchdog ??= setTimeout(() => this.#socket?.close(), WATCHDOG_MS);
  }

  #unwatch(): void {
    clearTimeout(this.#watchdog);
    this.#watchdog = undefined;
  }

  #take(answer: LiveAnswer): void {
    if (answer.working) {
      // It takes long, and is worked on: asking again would only make it longer.
      this.#unwatch();
      this.#watch();
      return;
    }
    // What could not even be read has no number: it is taken for the newest.
    const sequence = answer.sequence === -1 ? this.#sequence : answer.sequence;
    const request = this.#open.get(sequence);
    if (request === undefined) return;
    for (const earlier of [...this.#open.keys()]) {
      if (earlier < sequence) this.#open.delete(earlier);
    }
    this.#unwatch();
    if (sequence < this.#sequence) this.#watch();
    if (answer.moved) {
      this.listener.onMoved(answer, request);
    } else {
      this.#open.delete(sequence);
      this.listener.onAnswer(answer, request);
    }
  }
}
