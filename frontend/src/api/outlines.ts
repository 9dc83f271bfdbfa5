/** The outlines of a file, read by the server. */

import { formatOf } from './catalogue';
import { api, saying, type ShownFile } from './client';

export type FileUnit = 'file' | 'mm' | 'inch';

/** What a file draws; or what went wrong, in words. */
export async function outlinesOf(file: File, unit: FileUnit = 'file'): Promise<ShownFile | string> {
  const answer = await api
    .POST('/api/outlines/{format}', {
      params: { path: { format: formatOf(file.name) as 'svg' }, query: { unit } },
      body: file as unknown as string,
      bodySerializer: (body) => body as unknown as BodyInit,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    .catch(() => undefined);
  return (answer?.data as ShownFile | undefined) ?? saying(answer?.error);
}
