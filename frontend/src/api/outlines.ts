/** Files read by the server: the outlines that they draw, or the words of their table. */

import { formatOf } from './catalogue';
import { api, saying, type ShownFile } from './client';

export type FileUnit = 'file' | 'mm' | 'inch';

/** The file itself as the body of a request. */
const asItIs = (file: File) => ({
  body: file as unknown as string,
  bodySerializer: (body: unknown) => body as BodyInit,
  headers: { 'Content-Type': 'application/octet-stream' },
});

/** What a file draws; or what went wrong, in words. */
export async function outlinesOf(file: File, unit: FileUnit = 'file'): Promise<ShownFile | string> {
  const params = { path: { format: formatOf(file.name) as 'svg' }, query: { unit } };
  const answer = await api.POST('/api/outlines/{format}', { params, ...asItIs(file) }).catch(() => undefined);
  return (answer?.data as ShownFile | undefined) ?? saying(answer?.error);
}

/** The words of a table, row by row; or what went wrong, in words. */
export async function wordsOf(file: File): Promise<string[][] | string> {
  const answer = await api.POST('/api/words', asItIs(file)).catch(() => undefined);
  return answer?.data?.rows ?? saying(answer?.error);
}
