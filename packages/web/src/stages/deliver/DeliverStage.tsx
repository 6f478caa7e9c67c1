import { Button, Checkbox, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  framesOf,
  middleOf,
  patternFault,
  PRESET_GROUPS,
  PRESETS,
  type ColourwayId,
  type Preset,
  type Shot,
} from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { useDeliveriesQuery, useFootageFaultsQuery, useMeasurementsQuery, useRenderMutation } from '../../data/api.ts';
import { useNotesQuery, useVerdictsQuery } from '../../data/reviews.ts';
import { problemText } from '../../data/requests.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Deliveries } from './Deliveries.tsx';
import { frameUrl } from '../../engine/frameUrl.ts';
import { keepPattern, keptPattern } from '../../view/namePattern.ts';
import { moved } from '../../view/whereSlice.ts';
import { checksInAll, type Check } from './checks.ts';
import { NameRow } from './NameRow.tsx';
import { SettingsRow } from './SettingsRow.tsx';
import { Reviews } from './Reviews.tsx';
import { SendReview } from './SendReview.tsx';

/** What the list of formats shows, by what they are for. */
const FORMATS = PRESET_GROUPS.map((group) => ({
  label: group,
  options: (Object.keys(PRESETS) as Preset[])
    .filter((key) => PRESETS[key].group === group)
    .map((value) => ({ value, label: PRESETS[value].label })),
}));

function renderText(shots: number, colourways: number): string {
  if (shots === 0 || colourways === 0) return 'Render';
  const what = shots === 1 ? 'Render 1 shot' : `Render ${shots} shots`;
  return colourways === 1 ? what : `${what} in ${colourways} colourways`;
}
/** Renders the chosen shots, and what has been rendered so far. */
export default function DeliverStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const { message } = useNotices();
  const { data: deliveries = [] } = useDeliveriesQuery(projectId, {
    pollingInterval: 1500,
    skipPollingIfUnfocused: true,
  });
  const [render, { isLoading }] = useRenderMutation();
  // shots in which something is isolated are chosen, until the user says otherwise
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const sighted = new Set<string>(
    document.sightings.filter((s) => s.value.layers.length > 0).map((s) => s.value.shotId),
  );
  const isChosen = (id: string) => said[id] ?? sighted.has(id);
  const [preset, setPreset] = useState<Preset>('ffv1');
  const { look } = document.project.value;
  const [withLook, setWithLook] = useState(false);
  const [burnIn, setBurnIn] = useState(false);
  const [handles, setHandles] = useState(0);
  const [onlyChanged, setOnlyChanged] = useState(false);
  const isForReview = PRESETS[preset].group === 'For review';
  const shots = document.shots.map((s) => s.value);
  const chosen = shots.filter((s) => isChosen(s.id));
  const { data: measurements = [] } = useMeasurementsQuery(projectId);
  const { data: faults, isError: isUnread } = useFootageFaultsQuery(projectId);
  const { data: verdicts = [] } = useVerdictsQuery(projectId);
  const { data: notes = [] } = useNotesQuery(projectId);
  const chosenIds = chosen.map((s) => s.id);
  // the colourway in hand is chosen, until the user says otherwise
  const [saidWays, setSaidWays] = useState<ColourwayId[]>();
  const allWays = document.colourways.map((c) => c.value);
  const ways = allWays.filter((c) => (saidWays ? saidWays.includes(c.id) : c.id === colourwayId));
  const checks = checksInAll(document, measurements, ways, chosenIds, {
    withLook: look !== null && withLook,
    ...(faults && { faults }),
    verdicts,
    notes,
  });
  const [namePattern, setNamePattern] = useState(() => keptPattern(localStorage));
  const colourwayName = ways[0]?.name ?? '';
  const before = deliveries.filter(
    (d) => d.shotId === chosen[0]?.id && d.colourwayName === colourwayName && d.preset === preset,
  );
  const firstWords = {
    project: document.project.value.name,
    shot: chosen[0]?.name ?? '',
    colourway: colourwayName,
    n: `${before.length + 1}`,
    date: new Date().toISOString().slice(0, 10),
  };
  const go = async () => {
    keepPattern(localStorage, namePattern);
    const colourwayIds = ways.map((c) => c.id);
    const asked = { projectId, shotIds: chosenIds, colourwayIds, preset, namePattern };
    const answer = await render({
      ...asked,
      ...(look && { withLook }),
      ...(isForReview && { burnIn }),
      handles,
      onlyChanged,
    });
    if (answer.error) void message.error(problemText(answer.error), 8);
  };
  const thumbOf = (shot: Shot) => {
    const media = document.media.find((m) => m.id === shot.mediaId);
    return media && { src: frameUrl(media.id, middleOf(framesOf(shot, media)), 'thumb') };
  };
  return (
    <>
      <div className="panel" style={{ width: 380, flex: 'none' }}>
        <h2>Shots</h2>
        {shots.length === 0 && <span className="quiet">No shots yet.</span>}
        <div className="shot-picks">
          {shots.map((s) => (
            <Checkbox
              key={s.id}
              checked={isChosen(s.id)}
              onChange={(e) => setSaid({ ...said, [s.id]: e.target.checked })}
            >
              <img alt="" {...thumbOf(s)} />
              <span>{s.name}</span>
            </Checkbox>
          ))}
        </div>
        {allWays.length === 1 && <span className="quiet">in the colourway {colourwayName}</span>}
        {allWays.length > 1 && (
          <Checkbox.Group
            aria-label="Colourways"
            options={allWays.map(({ id, name }) => ({ value: id, label: name }))}
            value={ways.map((c) => c.id)}
            onChange={setSaidWays}
          />
        )}
        <h2>Format</h2>
        <SettingsRow
          settings={{ preset, withLook, burnIn, handles, namePattern }}
          onTake={(kept) => {
            setPreset(kept.preset);
            setWithLook(kept.withLook);
            setBurnIn(kept.burnIn);
            setHandles(kept.handles);
            setNamePattern(kept.namePattern);
          }}
        />
        <Select aria-label="Format" value={preset} onChange={setPreset} options={FORMATS} listHeight={420} />
        <span className="quiet">{PRESETS[preset].detail}</span>
        {look && (
          <Checkbox checked={withLook} onChange={(e) => setWithLook(e.target.checked)}>
            Through the look
          </Checkbox>
        )}
        {isForReview && (
          <Checkbox checked={burnIn} onChange={(e) => setBurnIn(e.target.checked)}>
            Burn in name, timecode and frame
          </Checkbox>
        )}
        {chosen.some((s) => s.span !== null) && (
          <label className="row">
            <span className="grow">Frames more at either end</span>
            <InputNumber
              aria-label="Handles, frames"
              size="small"
              min={0}
              max={1000}
              precision={0}
              value={handles}
              onChange={(v) => setHandles(v ?? 0)}
            />
          </label>
        )}
        {deliveries.length > 0 && (
          <Checkbox checked={onlyChanged} onChange={(e) => setOnlyChanged(e.target.checked)}>
            Only what is not rendered as it is now
          </Checkbox>
        )}
        <NameRow pattern={namePattern} words={firstWords} preset={preset} onChange={setNamePattern} />
        <Button
          data-step="render"
          type="primary"
          loading={isLoading}
          disabled={chosen.length === 0 || ways.length === 0 || patternFault(namePattern) !== undefined}
          onClick={() => void go()}
        >
          {renderText(chosen.length, ways.length)}
        </Button>
        <SendReview
          projectId={projectId}
          shotIds={chosenIds}
          colourwayIds={ways.map((c) => c.id)}
          withLook={look !== null && withLook}
        />
        <h2>Checks</h2>
        {chosen.length === 0 && <span className="quiet">No shot is chosen.</span>}
        {chosen.length > 0 && checks.length === 0 && faults && <span>✓ Nothing to mend.</span>}
        {!faults && !isUnread && <span className="quiet">The footage is being compared with what came in …</span>}
        {isUnread && <span role="alert">⚠ The footage could not be compared with what came in.</span>}
        {checks.map((check, i) => (
          <CheckLine key={`${i} ${check.text}`} check={check} projectId={projectId} />
        ))}
      </div>
      <div className="page">
        <Reviews document={document} notes={notes} />
        <Deliveries deliveries={deliveries} document={document} />
      </div>
    </>
  );
}

/** One thing to know before rendering: its state in a word, and the way to where it is mended. */
function CheckLine({ check: { mark, word, text, at, frame }, projectId }: { check: Check; projectId: string }) {
  const dispatch = useAppDispatch();
  const { shotId, pieceId, stage } = at;
  return (
    <Link
      className="check"
      to={`/projects/${projectId}/${stage}`}
      onClick={() =>
        dispatch(moved({ shotId, ...(pieceId && { pieceId, layerId: null }), ...(frame !== undefined && { frame }) }))
      }
    >
      <strong>
        {mark} {word}
      </strong>{' '}
      {text}
    </Link>
  );
}
