/** A body from a file, and which of its faces is to be lettered on. */

import { api, saying, type Blank, type ShownBody, type Solid } from '../api/client';

export type BodyUnit = 'file' | 'mm' | 'inch';
const KINDS = ['stl', '3mf'] as const;
export const ENDINGS = KINDS.map((kind) => `.${kind}`).join(',');

export class FoundBody {
  chosen = $state(0);
  /** The body as GLB. */
  readonly data: ArrayBuffer;

  constructor(
    readonly name: string,
    readonly found: ShownBody,
  ) {
    this.data = Uint8Array.from(atob(found.glb), (one) => one.charCodeAt(0)).buffer;
  }

  get faceOf(): readonly number[] {
    return this.found.face_of;
  }

  /** Choose the face that a triangle is in. */
  pick(triangle: number | undefined): void {
    const face = triangle === undefined ? -1 : (this.faceOf[triangle] ?? -1);
    if (face >= 0) this.chosen = face;
  }

  /** What goes into the piece: the face laid flat is its blank. */
  taken(recipe: Solid): { blank: Blank; solid: Solid } | undefined {
    const face = this.found.faces[this.chosen];
    if (!face) return undefined;
    const { blank, frame, depth, sag } = face;
    const body = { name: this.name.slice(0, 200), face: blank, mesh: this.found.mesh, frame, depth, sag } as Solid['body'];
    return { blank: blank as Blank, solid: { ...recipe, rim: null, body } };
  }
}

/** The body in a file; in words, why there is none. */
export async function readBody(file: File, unit: BodyUnit): Promise<FoundBody | string> {
  const kind = KINDS.find((one) => file.name.toLowerCase().endsWith(`.${one}`));
  if (!kind) return `A body is read from ${ENDINGS.replaceAll(',', ' or ')}.`;
  try {
    const answer = await api.POST('/api/solid/body/{kind}', {
      params: { path: { kind }, query: { unit } },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    return answer.data ? new FoundBody(file.name, answer.data as ShownBody) : saying(answer.error);
  } catch {
    return 'The server does not answer.';
  }
}
