import { Button } from 'antd';
import type { Balance, Shot } from '@mellow/contract';
import { useEffect } from 'react';
import { balanceWithTone, NEUTRAL_BALANCE, toneUnder, type Tone } from '@mellow/core';
import { balanceWith, changeBalance } from '../../commands/shots.ts';
import { dragged } from '../../view/draftSlice.ts';
import { edit } from '../../editing/editing.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { CdlNumbers } from '../../ui/CdlNumbers.tsx';
import { Fold } from '../../ui/Fold.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { pickingFor } from '../../view/handSlice.ts';
import { lookChanged } from '../../view/lookSlice.ts';
import { ViewerPane } from '../../viewer/ViewerPane.tsx';
import { ReferencePicture } from './ReferencePicture.tsx';
import { ToneControl } from './ToneControl.tsx';
import { useBalancing } from './useBalancing.ts';

const ROWS: NumberRow<'exposureStops' | 'warmthMired' | 'saturation'>[] = [
  { key: 'exposureStops', label: 'Exposure', unit: 'st', min: -8, max: 8, step: 0.05, digits: 2 },
  { key: 'warmthMired', label: 'Warmth', unit: 'mired', min: -60, max: 90, step: 0.5, digits: 1 },
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 0, scale: 100 },
];
/** The base correction of one shot, beside its picture: what keys and recolours start from. */
export function BalancePanel({ inHand, shot, onClose }: { inHand: InHand; shot: Shot; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const now: Balance = shot.balance ?? NEUTRAL_BALANCE;
  const drag = (next: Partial<Balance>) =>
    dispatch(dragged({ balance: { shotId: shot.id, balance: balanceWith(shot, next) } }));
  const save = (label: string, next: Partial<Balance>) => edit(shot.projectId, changeBalance(shot, label, next));
  const { work, isPicking, pickNeutral, matchPatches, said, reference } = useBalancing(inHand, shot);
  // what is judged here is the picture, not a matte
  useEffect(() => {
    dispatch(lookChanged({ view: 'Result' }));
    return () => void dispatch(pickingFor('key'));
  }, [dispatch]);
  const tone = (of: Tone, label: string) => (
    <ToneControl
      key={of}
      tone={of}
      label={label}
      now={toneUnder(now, of, shot.encoding)}
      onDrag={(wanted) => drag(balanceWithTone(now, of, shot.encoding, wanted))}
      onSave={(what, wanted) => save(what, balanceWithTone(now, of, shot.encoding, wanted))}
    />
  );
  const panel = (
    <>
      <h2>
        Balance of {shot.name}
        <span style={{ flex: 1 }} />
        <Button size="small" disabled={!shot.balance} onClick={() => save('Reset the balance', NEUTRAL_BALANCE)}>
          Reset
        </Button>
        <Button size="small" onClick={onClose}>
          Back to the list
        </Button>
      </h2>
      <p className="quiet" style={{ margin: 0 }}>
        A base correction before anything is isolated. It is part of the render.
      </p>
      {reference && <ReferencePicture inHand={inHand} reference={reference} />}
      <div className="row">
        <Button size="small" type={isPicking ? 'primary' : 'default'} aria-pressed={isPicking} onClick={pickNeutral}>
          Pick a neutral
        </Button>
        <Button size="small" disabled={!reference} onClick={matchPatches}>
          Match by patches
        </Button>
      </div>
      {said && <div role="status">{said}</div>}
      <div className="tones">
        {tone('shadows', 'shadows')}
        {tone('middle', 'middle')}
        {tone('light', 'light')}
        <div className="numbers">
          <NumberRows
            rows={ROWS}
            values={now}
            neutral={NEUTRAL_BALANCE}
            onDrag={(key, v) => drag({ [key]: v })}
            onCommit={(key, v, name) => save(name, { [key]: v })}
          />
        </div>
      </div>
      <Fold title="Exact" says="ASC CDL" label="Exact, ASC CDL">
        <CdlNumbers cdl={now} onDrag={drag} onSave={save} />
      </Fold>
    </>
  );
  return (
    <StageSplit inHand={inHand} panel={panel}>
      <ViewerPane inHand={inHand} work={work} />
    </StageSplit>
  );
}
