/** The server's routes, typed by its OpenAPI document. */

import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Piece = Schemas['Piece'];
export type Guide = Piece['guides'][number];
export type Blank = NonNullable<Piece['blank']>;
export type Lettering = Schemas['Lettering'];
export type Mark = Schemas['Mark'];
export type Dial = Schemas['Dial'];
export type LabelChange = Schemas['LabelChange'];
export type Remedy = Schemas['Remedy'];
export type OpenPiece = Schemas['OpenPiece'];
export type PieceSummary = Schemas['PieceSummary'];
type Problem = Schemas['Problem'];
export type WrongField = Schemas['WrongField'];
export type FaceEntry = Schemas['FaceEntry'];
export type Scene = Schemas['Scene'];
export type SceneGuide = Schemas['SceneGuide'];
export type SceneLettering = Schemas['SceneLettering'];
export type SceneMeasure = Schemas['SceneMeasure'];
export type StripLine = Schemas['StripLine'];
export type Dimension = Schemas['Dimension'];
export type Finding = Schemas['Finding'];
export type LiveRequest = Schemas['LiveRequest'];
export type LiveAnswer = Schemas['LiveAnswer'];
export type Moved = Schemas['Moved'];
export type Act = NonNullable<LiveRequest['acts']>[number];
export type Grip = Schemas['Grip'];
export type DrawerEntry = Schemas['DrawerEntry'];
export type ShownFile = Schemas['ShownFile'];
export type ShownOutline = Schemas['ShownOutline'];
export type Takeaway = Schemas['Takeaway'];
export type Prepare = Schemas['Prepare'];
export type ToolSheet = Schemas['ToolSheet'];
export type ProofScene = Schemas['ProofScene'];
export type ProofBridge = Schemas['ProofBridge'];
export type RunScene = Schemas['RunScene'];
export type ShownPass = Schemas['ShownPass'];
export type RunSheet = NonNullable<Piece['run']>;
export type RunPass = NonNullable<RunSheet['passes']>[number];
export type Kerf = Schemas['Kerf'];
export type StitchScene = Schemas['StitchScene'];
export type LetterColumns = Schemas['LetterColumns'];
export type SewnOut = Schemas['SewnOut'];
export type StitchFileShown = Schemas['StitchFileShown'];
export type Sewing = StitchScene['recipe'];
export type BatchRequest = Schemas['BatchRequest'];
export type BatchSummary = Schemas['BatchSummary'];
export type NamesScene = Schemas['NamesScene'];
export type NameRow = Schemas['NameRow'];
export type NameLeaf = Schemas['NameLeaf'];
export type MadeName = Schemas['MadeName'];
export type SolidScene = Schemas['SolidScene'];
export type ShownBody = Schemas['ShownBody'];
export type Solid = SolidScene['recipe'];
export type LetteringRelief = SolidScene['letterings'][number]['relief'];
export type SewnLettering = StitchScene['letterings'][number]['wish'];
export type Machine = Schemas['Machine'];
export type ShownMachine = Schemas['ShownMachine'];
export type ShownJob = Schemas['ShownJob'];
export type CameOut = Schemas['CameOut'];
export type Works = RunPass['works'][number];
export type Use = ProofScene['use'];
export type Output = 'draw' | 'engrave' | 'cut';
export type Catalogue = Schemas['Catalogue'];
export type Way = Schemas['Way'];
export type Input = Schemas['KindEntry']['inputs'][number];
export type StepEntry = Schemas['StepEntry'];

/** Names this page to the server, which has its work done where its piece is known already. */
export const page = crypto.randomUUID();

export const api = createClient<paths>({ baseUrl: '/', headers: { 'Ulvent-Page': page } });

/** What went wrong, in words for a person; `undefined` is a server that did not answer. */
export function saying(problem: unknown): string {
  const detail = (problem as Problem | undefined)?.detail;
  return detail ?? 'Ulvent does not answer. Is it still running in its terminal?';
}

/** The JSON that a piece file holds. */
export type Document = { [key: string]: unknown };

/** A typed piece as the plain document that the server takes and checks. */
export function asDocument(piece: Piece): Document {
  return piece as unknown as Document;
}
