/** Files taken away: at once, or, where that takes longer than a moment, made by a worker first. */

import { api, saying } from '../api/client';
import { settled, type Keeper } from '../piece/settled';

const MOMENT_MS = 2000;
const LOOK_MS = 1000;

/** Who takes away: what went wrong is said, and so is what comes later. */
interface Taker extends Keeper {
  readonly id: string;
  coming: string;
}

/** What is asked for, or `late` where it is not there within a moment; none where nothing answers. */
export async function soon<T>(ask: (signal: AbortSignal) => Promise<T>, moment = MOMENT_MS): Promise<T | 'late' | undefined> {
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), moment);
  try {
    return await ask(stop.signal);
  } catch {
    return stop.signal.aborted ? 'late' : undefined;
  } finally {
    clearTimeout(timer);
  }
}

/** Take a file of a piece away, by its path; one pass of a run, or one hooping, is waited for. */
export async function take(taker: Taker, file: string): Promise<void> {
  if (!(await settled(taker))) return;
  const fetched = async (signal?: AbortSignal) => {
    const answer = await fetch(`/api/pieces/${taker.id}/${file}`, { signal: signal ?? null });
    if (answer.ok) save(await answer.blob(), nameOf(answer.headers.get('Content-Disposition') ?? ''));
    return answer.ok ? '' : saying(await answer.json());
  };
  const found = await (/[?](pass|hooping)=/.test(file) ? fetched().catch(() => undefined) : soon(fetched));
  if (found === 'late') await takeLater(taker, file);
  else taker.saying = found ?? saying(undefined);
}

/** Have a file made by a worker; it comes when it is made, if the page is still open. */
async function takeLater(taker: Taker, file: string): Promise<void> {
  const params = { path: { piece_id: taker.id }, query: { file: file as never } };
  const begun = await api.POST('/api/pieces/{piece_id}/batches/alone', { params }).catch(() => undefined);
  if (!begun?.data) {
    taker.saying = saying(begun?.error);
    return;
  }
  taker.coming = file;
  const path = { batch_id: begun.data.id };
  for (;;) {
    await new Promise((done) => setTimeout(done, LOOK_MS));
    const answer = await api.GET('/api/batches/{batch_id}', { params: { path } }).catch(() => undefined);
    if (!answer) continue; // the server cannot be reached now
    if (answer.data?.batch.state === 'running') continue;
    taker.coming = '';
    taker.saying = answer.data?.batch.reason ?? '';
    if (answer.data?.batch.state === 'done') location.assign(`/api/batches/${path.batch_id}/files`);
    return;
  }
}

/** The name that an answer gives its file, letters of all scripts included. */
export function nameOf(disposition: string): string {
  const exact = /filename\*=UTF-8''([^;]+)/.exec(disposition)?.[1];
  return exact ? decodeURIComponent(exact) : 'piece';
}

/** The ending of a file, by its path, as people write it. */
export function ending(file: string): string {
  return file.replace(/^.*\/|\?.*$/g, '').toUpperCase();
}

function save(file: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
