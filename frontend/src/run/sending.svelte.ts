/** What is sent of a piece: its machines, its last job, and how far that has come. */

import { api, saying, type CameOut, type Machine, type ShownJob, type ShownMachine } from '../api/client';

const LOOK_MS = 400;
const REST_MS = 3000;

export type Wish = 'hold' | 'go-on' | 'stop';

export class Sending {
  machines = $state.raw<ShownMachine[]>([]);
  job = $state.raw<ShownJob | null>(null);
  wrong = $state('');
  /** What keeps it from being sent that a person may say does not matter. */
  open = $state('');
  busy = $state(false);
  cameOut = $state.raw<CameOut>();
  /** Pictures of a bed are asked for anew by it. */
  looked = $state(0);

  #timer: ReturnType<typeof setTimeout> | undefined;
  #closed = false;

  constructor(private readonly piece: string) {
    void this.#look();
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#timer);
  }

  /** Ask for the job and the machines, and again after a while. */
  async #look(): Promise<void> {
    clearTimeout(this.#timer);
    const [job, machines] = await Promise.all([
      api.GET('/api/jobs', { params: { query: { piece: this.piece } } }).catch(() => undefined),
      api.GET('/api/machines').catch(() => undefined),
    ]);
    if (this.#closed) return;
    if (machines?.data) this.machines = machines.data;
    if (job?.response.ok) this.#takes(job.data ?? null);
    this.#timer = setTimeout(() => void this.#look(), this.job?.active ? LOOK_MS : REST_MS);
  }

  async send(machine: string, revision: number, onePass: string, despite: boolean): Promise<void> {
    const body = { piece_id: this.piece, revision, one_pass: onePass, despite };
    const params = { path: { machine_id: machine } };
    await this.#done(() => api.POST('/api/machines/{machine_id}/jobs', { params, body }));
  }

  async takeUp(line: number, again: boolean): Promise<void> {
    if (!this.job) return;
    const params = { path: { job_id: this.job.id } };
    await this.#done(() => api.POST('/api/jobs/{job_id}', { params, body: { line, again } }));
  }

  async wish(wish: Wish): Promise<void> {
    if (!this.job) return;
    const params = { path: { job_id: this.job.id, wish } };
    await this.#done(() => api.POST('/api/jobs/{job_id}/{wish}', { params }));
  }

  async keep(machine: Machine): Promise<boolean> {
    const params = { path: { machine_id: machine.id } };
    return this.#done(() => api.PUT('/api/machines/{machine_id}', { params, body: machine }));
  }

  async forget(machine: string): Promise<void> {
    const params = { path: { machine_id: machine } };
    await this.#done(() => api.DELETE('/api/machines/{machine_id}', { params }));
  }

  async fail(machine: string, fault: string, after: number): Promise<void> {
    const params = { path: { machine_id: machine } };
    await this.#done(() => api.POST('/api/machines/{machine_id}/fault', { params, body: { fault, after } }));
    await this.see(machine);
  }

  async freshSheet(machine: string): Promise<void> {
    const params = { path: { machine_id: machine } };
    await this.#done(() => api.POST('/api/machines/{machine_id}/sheet', { params }));
    await this.see(machine);
  }

  /** Look at the bed of a simulated machine. */
  async see(machine: string): Promise<void> {
    const params = { path: { machine_id: machine } };
    const answer = await api.GET('/api/machines/{machine_id}/came-out', { params }).catch(() => undefined);
    this.cameOut = answer?.data;
    this.looked += 1;
  }

  #takes(job: ShownJob | null): void {
    const ended = this.job?.active && !job?.active;
    this.job = job;
    if (ended && job && this.machines.some((one) => one.simulated && one.machine.id === job.machine.id)) {
      void this.see(job.machine.id);
    }
  }

  /** Do something, say what is wrong with it, and look again. */
  async #done(
    ask: () => Promise<{ error?: unknown; response: Response }>,
  ): Promise<boolean> {
    this.busy = true;
    this.open = '';
    const answer = await ask().catch(() => undefined);
    this.busy = false;
    const well = answer?.response.ok ?? false;
    this.wrong = well ? '' : saying(answer?.error);
    const fields = (answer?.error as { errors?: { field: string; reason: string }[] } | undefined)?.errors;
    const open = fields?.find((one) => one.field === 'despite');
    if (open) [this.open, this.wrong] = [open.reason, ''];
    await this.#look();
    return well;
  }
}
