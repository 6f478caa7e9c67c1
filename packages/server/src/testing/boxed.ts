import { randomUUID } from 'node:crypto';
import type { ChangeId, ColourwayId, Edit, PieceId, RecipeId, Shift, ShotId, SightingId } from '@mellow/contract';
import type { Harness } from './harness.ts';
import { upload } from './uploading.ts';

export interface Boxed {
  projectId: string;
  shotId: ShotId;
  colourwayId: ColourwayId;
  pieceId: PieceId;
  sightingId: SightingId;
  recipeId: RecipeId;
}
/** Centre and size of what is isolated; full-resolution pixels. */
interface Box {
  cx: number;
  cy: number;
  width: number;
  height: number;
}

/** A new project with one shot, in which a rectangle, the piece “Box”, is isolated and recoloured. */
export async function boxed(h: Harness, name: string, file: string, box: Box, shift: Shift): Promise<Boxed> {
  const { id: projectId } = await h.call('createProject', {}, { name });
  const { shotIds } = (await upload(h, projectId, [file])).body;
  const shotId = shotIds[0]!;
  const colourwayId = (await h.call('getProject', { projectId })).colourways[0]!.value.id;
  const [pieceId, sightingId, recipeId] = [randomUUID(), randomUUID(), randomUUID()] as unknown as [
    PieceId,
    SightingId,
    RecipeId,
  ];
  const layer = {
    id: randomUUID(),
    name: 'Box',
    kind: 'shape',
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    geometry: { form: 'rectangle', ...box, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
  };
  const made = (kind: Edit['kind'], id: string, value: object) => ({
    kind,
    id,
    revision: null,
    value: { id, projectId, ...value },
  });
  const edits = [
    made('piece', pieceId, { name: 'Box', kind: 'prop', position: 0 }),
    made('sighting', sightingId, { pieceId, shotId, layers: [layer] }),
    made('recipe', recipeId, { pieceId, colourwayId, shift, strength: 1 }),
  ] as unknown as Edit[];
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Set up', edits });
  return { projectId, shotId, colourwayId, pieceId, sightingId, recipeId };
}
