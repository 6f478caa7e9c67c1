import { Checkbox } from 'antd';
import { useState } from 'react';
import {
  framesOf,
  lookOfShot,
  middleOf,
  patternFault,
  PRESETS,
  type ColourwayId,
  type RenderSettings,
  type Shot,
} from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useDeliveriesQuery, useFootageFaultsQuery, useMeasurementsQuery, useRenderMutation } from '../../data/api.ts';
import { useNotesQuery, useVerdictsQuery } from '../../data/reviews.ts';
import { problemText } from '../../data/requests.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Deliveries } from './Deliveries.tsx';
import { frameUrl } from '../../engine/frameUrl.ts';
import { keepPattern, keptPattern } from '../../view/namePattern.ts';
import { SplitButton } from '../../ui/SplitButton.tsx';
import { Checks } from './Checks.tsx';
import { checksInAll } from './checks.ts';
import { RenderSettingsFields } from './RenderSettingsFields.tsx';
import { Reviews } from './Reviews.tsx';
import { SendReview } from './SendReview.tsx';

function renderText(shots: number, colourways: number): string {
  if (shots === 0 || colourways === 0) return 'Render';
  const what = shots === 1 ? 'Render 1 shot' : `Render ${shots} shots`;
  return colourways === 1 ? what : `${what} in ${colourways} colourways`;
}
const PLAIN_SETTINGS = { preset: 'ffv1', withLook: false, burnIn: false, handles: 0, toFolder: false } as const;

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
  const hasLook = document.shots.some((s) => lookOfShot(document.project.value, s.value));
  const [settings, setSettings] = useState<RenderSettings>(() => ({
    ...PLAIN_SETTINGS,
    namePattern: keptPattern(localStorage),
  }));
  const { preset, namePattern } = settings;
  const withLook = hasLook && settings.withLook;
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
    withLook,
    ...(faults && { faults }),
    verdicts,
    notes,
  });
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
  const compared = faults ? 'compared' : 'being compared';
  const footage = isUnread ? 'not compared' : compared;
  const go = async (onlyChanged: boolean) => {
    keepPattern(localStorage, namePattern);
    const colourwayIds = ways.map((c) => c.id);
    const { burnIn, handles, toFolder } = settings;
    const isForReview = PRESETS[preset].group === 'For review';
    const answer = await render({
      projectId,
      shotIds: chosenIds,
      colourwayIds,
      preset,
      namePattern,
      handles,
      onlyChanged,
      toFolder,
      ...(hasLook && { withLook }),
      ...(isForReview && { burnIn }),
    });
    if (answer.error) void message.error(problemText(answer.error), 8);
  };
  const thumbOf = (shot: Shot) => {
    const media = document.media.find((m) => m.id === shot.mediaId);
    const isMade = media && document.proxies[media.id]?.state === 'done';
    return isMade && { src: frameUrl(media.id, middleOf(framesOf(shot, media)), 'thumb') };
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
              onChange={({ target }) => setSaid((before) => ({ ...before, [s.id]: target.checked }))}
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
        <RenderSettingsFields
          settings={settings}
          onChange={(changed) => setSettings({ ...settings, ...changed })}
          hasLook={hasLook}
          hasParts={chosen.some((s) => s.span !== null)}
          words={firstWords}
        />
        <SplitButton
          step="render"
          type="primary"
          loading={isLoading}
          disabled={chosen.length === 0 || ways.length === 0 || patternFault(namePattern) !== undefined}
          onClick={() => void go(false)}
          more="Render, otherwise"
          ways={[
            { key: 'changed', label: 'Render only what is not rendered as it is now', onClick: () => void go(true) },
          ]}
        >
          {renderText(chosen.length, ways.length)}
        </SplitButton>
        <SendReview
          projectId={projectId}
          shotIds={chosenIds}
          colourwayIds={ways.map((c) => c.id)}
          withLook={withLook}
        />
        <Checks projectId={projectId} checks={checks} isChosen={chosen.length > 0} footage={footage} />
      </div>
      <div className="page">
        <Reviews document={document} notes={notes} />
        <Deliveries deliveries={deliveries} document={document} />
      </div>
    </>
  );
}
