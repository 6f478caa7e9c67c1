import { Button, Tag } from 'antd';
import { useState } from 'react';
import { inShotLight, labFromLinear709, lightInWords, hexFromLab } from '@mellow/core';
import type { LightByHand, Shot, ShotLight } from '@mellow/contract';
import { lightByHand, setLight, setPatches } from '../../commands/match.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { edit, shotNow, tellProblem } from '../../editing/editing.ts';
import { lightText } from '../../ui/lightText.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { foundLight, type LightWay } from '../../inhand/matching.ts';
import { Fold } from '../../ui/Fold.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { dragged } from '../../view/draftSlice.ts';
import { pickingFor, type PickFor } from '../../view/handSlice.ts';

const WAYS: Record<LightWay, string> = {
  probe: 'Old colour',
  neutral: 'Neutral',
  both: 'Both',
  patches: 'Patches',
};
const HOW: Record<ShotLight['how'], string> = {
  probe: 'from the piece’s old colour',
  neutral: 'from a neutral',
  both: 'colour from a neutral, strength from the piece',
  patches: 'from matching patches',
  hand: 'by hand',
};
const NO_HAND: LightByHand = { warmthMired: 0, tint: 0, exposureStops: 0 };
const ROWS: NumberRow<keyof LightByHand>[] = [
  { key: 'warmthMired', label: 'Warmer', unit: 'mired', min: -60, max: 90, step: 0.5, digits: 1 },
  { key: 'tint', label: 'Greener', unit: 'Duv ‰', min: -50, max: 50, step: 0.2, digits: 1 },
  { key: 'exposureStops', label: 'Lighter', unit: 'stops', min: -8, max: 8, step: 0.05, digits: 2 },
];
/** A white that the screen can show under a light a little stronger than the reference shot's. */
const WHITE = labFromLinear709([0.6, 0.6, 0.6]);

/** How the shot's light differs from the reference shot's, and the ways to find it. */
export function LightCard({ inHand, shot }: { inHand: InHand; shot: Shot }) {
  const { document, piece } = inHand;
  const [busy, setBusy] = useState<LightWay | undefined>();
  const [missing, setMissing] = useState<string | undefined>();
  const projectId = document.project.value.id;
  const reference = document.shots.find((s) => s.value.id === document.project.value.referenceShotId)?.value;
  const isReference = reference?.id === shot.id;
  const matrix = shot.light?.matrix;
  const find = async (how: LightWay) => {
    if (!reference) return;
    setBusy(how);
    try {
      const light = await foundLight(inHand, how, piece?.id, reference, shot);
      setMissing(typeof light === 'string' ? light : undefined);
      if (typeof light !== 'string')
        edit(projectId, setLight(shotNow(shot), { how, matrix: [...light] as ShotLight['matrix'] }));
    } catch (error) {
      tellProblem(error);
    }
    setBusy(undefined);
  };
  const dispatch = useAppDispatch();
  const byHand = (numbers: Partial<LightByHand>) => lightByHand({ ...NO_HAND, ...shot.light?.byHand, ...numbers });
  return (
    <Fold
      title={`Light of ${shot.name}`}
      says={isReference ? 'reference shot' : lightText(matrix ? lightInWords(matrix) : undefined)}
      label="Light"
    >
      {!isReference && (
        <>
          <div className="patches" style={{ height: 26, marginTop: 0 }}>
            <div style={{ background: hexFromLab(WHITE) }} title="white in the reference shot" />
            <div style={{ background: hexFromLab(inShotLight(matrix, WHITE)) }} title="the same white here" />
          </div>
          <div className="quiet">
            white in {reference?.name ?? 'no reference shot'} | here{shot.light ? ` · ${HOW[shot.light.how]}` : ''}
          </div>
          <div className="row" style={{ flexWrap: 'wrap' }}>
            {(Object.keys(WAYS) as LightWay[]).map((way) => (
              <Button
                key={way}
                size="small"
                type={shot.light?.how === way ? 'primary' : 'default'}
                disabled={!reference}
                loading={busy === way}
                onClick={() => void find(way)}
              >
                {WAYS[way]}
              </Button>
            ))}
            <Button size="small" disabled={!shot.light} onClick={() => edit(projectId, setLight(shot, null))}>
              None
            </Button>
          </div>
          {missing && (
            <div className="quiet" role="status">
              {missing}
            </div>
          )}
        </>
      )}
      <PatchList shot={shot} projectId={projectId} />
      {!isReference && (
        <details>
          <summary className="quiet">by hand</summary>
          <div className="numbers">
            <NumberRows
              rows={ROWS}
              values={shot.light?.byHand ?? NO_HAND}
              neutral={NO_HAND}
              nameOf={(label) => `Light ${label.toLowerCase()}`}
              onDrag={(key, v) => dispatch(dragged({ light: { shotId: shot.id, light: byHand({ [key]: v }) } }))}
              onCommit={(key, v) => edit(projectId, setLight(shot, byHand({ [key]: v })))}
            />
          </div>
        </details>
      )}
    </Fold>
  );
}

/** Places of the shot whose like is picked in the reference shot under the same letter. */
function PatchList({ shot, projectId }: { shot: Shot; projectId: Shot['projectId'] }) {
  const dispatch = useAppDispatch();
  const pickFor = useAppSelector((s) => s.hand.pickFor);
  const pick = (what: Extract<PickFor, 'patch' | 'neutral'>) => (
    <Button
      size="small"
      type={pickFor === what ? 'primary' : 'default'}
      aria-pressed={pickFor === what}
      onClick={() => dispatch(pickingFor(pickFor === what ? 'key' : what))}
    >
      Pick a {what}
    </Button>
  );
  return (
    <div className="row" style={{ flexWrap: 'wrap' }}>
      {pick('neutral')}
      {pick('patch')}
      {shot.patches.map((patch) => (
        <Tag
          key={patch.name}
          closable
          onClose={() =>
            edit(
              projectId,
              setPatches(
                shot,
                shot.patches.filter((p) => p.name !== patch.name),
                `Drop patch ${patch.name} of ${shot.name}`,
              ),
            )
          }
        >
          {patch.name}
          {patch.isNeutral ? ' neutral' : ''}
        </Tag>
      ))}
    </div>
  );
}
