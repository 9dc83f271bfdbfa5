/** What there is to say of a batch, in words. */

import type { BatchSummary } from '../api/client';

const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
const rows = (count: number) => counted(count, 'row');

/** How far it has come. */
export function progressWords(batch: BatchSummary): string {
  if (batch.state === 'failed') return batch.reason;
  if (batch.alone) return { running: 'being made', done: batch.fit ? 'made' : 'made, and not sound: its proof has faults', cancelled: 'stopped' }[batch.state];
  if (batch.stage === 'heights') return `one height: ${batch.measured} of ${rows(batch.rows)} measured`;
  const unfit = batch.made - batch.fit;
  const said = [`${batch.made} of ${rows(batch.rows)} made`];
  if (unfit) said.push(unfit === 1 ? '1 does not fit' : `${unfit} do not fit`);
  if (batch.stage === 'nesting' && batch.state === 'running') said.push('laying them on sheets');
  if (batch.sheets) {
    const whole = batch.sheets - batch.offcuts;
    const least = batch.least < whole ? `, no way takes fewer than ${batch.least}` : '';
    const used = `${Math.round(100 * batch.filled)} % used${least}`;
    const kinds = [batch.offcuts && counted(batch.offcuts, 'off-cut'), whole && counted(whole, 'sheet')];
    const done = batch.written < batch.sheets ? `, ${batch.written} written` : '';
    said.push(`${kinds.filter(Boolean).join(' and ')}${done} (${used})`);
  }
  if (batch.state === 'cancelled') said.push('stopped');
  return said.join(' · ');
}

/** The part of it that is done, from 0 to 1: stages that are still to come are counted too. */
export function share(batch: BatchSummary): number {
  if (batch.stage === 'heights') return (0.4 * batch.measured) / batch.rows;
  if (batch.stage === 'rows') return batch.made / batch.rows;
  return batch.sheets ? batch.written / batch.sheets : 1;
}

/** Whether there is something to take away. */
export function takeable(batch: BatchSummary): boolean {
  if (batch.alone) return batch.state === 'done';
  return batch.sheets ? batch.written > 0 : batch.fit > 0 && !batch.nested;
}
