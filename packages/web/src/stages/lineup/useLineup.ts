import { useState } from 'react';
import type { Gain, Shot, ShotLight } from '@mellow/contract';
import { setLight, setTrims } from '../../commands/match.ts';
import { documentOf, edit, shotNow, tellProblem } from '../../editing/editing.ts';
import type { MatchAnswer } from '../../engine/frameProtocol.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { askMatch, isolatedIn, probedLight } from '../../inhand/matching.ts';
import type { PieceRow } from './sightings.ts';

/** What solving would lay on top of the recipe in one shot. */
export interface SolvedTrim {
  sightingId: string;
  answer: MatchAnswer & { gain: Gain };
}

/** Solving trims and taking lights, row by row; what is solved is shown before it is done. */
export function useLineup(inHand: InHand) {
  const { document, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const [busy, setBusy] = useState<string | undefined>();
  const [solved, setSolved] = useState<readonly SolvedTrim[]>([]);
  const reference = document.shots.find((s) => s.value.id === document.project.value.referenceShotId)?.value;
  const while_ = async (what: string, work: () => Promise<void>) => {
    setBusy(what);
    await work().catch(tellProblem);
    setBusy(undefined);
  };
  const solveOne = async ({ requirement }: PieceRow, shot: Shot, pieceId: string): Promise<SolvedTrim[]> => {
    const sighting = isolatedIn(document, pieceId, shot.id);
    if (!sighting || !requirement) return [];
    const answer = await askMatch(inHand, { shot, sighting, requirement, way: 'trim' });
    return answer?.gain ? [{ sightingId: sighting.id, answer: { ...answer, gain: answer.gain } }] : [];
  };
  const solve = (row: PieceRow, shots = row.sightings.map((s) => s.shot)) =>
    while_(`solve ${row.piece.id}`, async () => {
      const found = await Promise.all(shots.map((shot) => solveOne(row, shot, row.piece.id)));
      setSolved(found.flat());
    });
  const solveAll = (rows: readonly PieceRow[]) =>
    while_('solve all', async () => {
      const found = await Promise.all(
        rows.flatMap((row) => row.sightings.map((s) => solveOne(row, s.shot, row.piece.id))),
      );
      setSolved(found.flat());
    });
  /** Lays trims on as one step; what else was solved stays to be applied. */
  const put = (trims: { sightingId: string; gain: Gain | null }[], label: string) => {
    if (colourwayId) edit(projectId, setTrims(documentOf(projectId) ?? document, colourwayId, label, trims));
    setSolved(solved.filter((s) => !trims.some((t) => t.sightingId === s.sightingId)));
  };
  const asTrims = (of: readonly SolvedTrim[]) => of.map(({ sightingId, answer: { gain } }) => ({ sightingId, gain }));
  const solvedIn = (row: PieceRow) => solved.filter((s) => row.sightings.some((x) => x.sighting?.id === s.sightingId));
  const takeLights = (row: PieceRow) =>
    while_(`lights ${row.piece.id}`, async () => {
      if (!reference) return;
      const others = row.sightings.filter((s) => s.sighting?.layers.length && s.shot.id !== reference.id);
      const found = await Promise.all(
        others.map(async ({ shot }) => ({ shot, matrix: await probedLight(inHand, row.piece.id, reference, shot) })),
      );
      const edits = found.flatMap(({ shot, matrix }) => {
        const light: ShotLight | undefined = matrix && { how: 'probe', matrix: [...matrix] as ShotLight['matrix'] };
        return light ? setLight(shotNow(shot), light).edits : [];
      });
      edit(projectId, { label: `Take the shots’ lights from ${row.piece.name}`, edits });
    });
  return {
    busy,
    reference,
    solved: new Map(solved.map((s) => [s.sightingId, s.answer])),
    solve: (row: PieceRow, shots?: Shot[]) => void solve(row, shots),
    apply: (row: PieceRow) => put(asTrims(solvedIn(row)), `Solve the trims of ${row.piece.name}`),
    solveAll: (rows: readonly PieceRow[]) => void solveAll(rows),
    applyAll: () => put(asTrims(solved), 'Solve all trims'),
    drop: () => setSolved([]),
    clearTrims: (row: PieceRow) =>
      put(
        row.sightings.flatMap((s) => (s.sighting ? [{ sightingId: s.sighting.id, gain: null }] : [])),
        `No trims of ${row.piece.name}`,
      ),
    takeLights: (row: PieceRow) => void takeLights(row),
    dropLight: (shot: Shot) => edit(projectId, setLight(shot, null)),
  };
}
export type Lineup = ReturnType<typeof useLineup>;
