import { App, Button, Checkbox, Radio } from 'antd';
import { useState } from 'react';
import { PRESETS, type Preset } from '@mellow/contract';
import { useDeliveriesQuery, useMeasurementsQuery, useRenderMutation } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Deliveries } from './Deliveries.tsx';
import { checksBefore } from './checks.ts';

const renderText = (shots: number): string => {
  if (shots === 0) return 'Render';
  return shots === 1 ? 'Render 1 shot' : `Render ${shots} shots`;
};
/** Renders the chosen shots, and what has been rendered so far. */
export default function DeliverStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const { message } = App.useApp();
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
  const shots = document.shots.map((s) => s.value);
  const chosen = shots.filter((s) => isChosen(s.id));
  const { data: measurements = [] } = useMeasurementsQuery(projectId);
  const chosenIds = chosen.map((s) => s.id);
  const checks = checksBefore(document, measurements, colourwayId, chosenIds);
  const go = async () => {
    if (!colourwayId) return;
    const answer = await render({ projectId, shotIds: chosenIds, colourwayId, preset });
    if (answer.error) void message.error(problemText(answer.error), 8);
  };
  return (
    <>
      <div className="panel" style={{ width: 380, flex: 'none' }}>
        <h2>What</h2>
        {shots.length === 0 && <span className="quiet">No shots yet.</span>}
        {shots.map((s) => (
          <Checkbox
            key={s.id}
            checked={isChosen(s.id)}
            onChange={(e) => setSaid({ ...said, [s.id]: e.target.checked })}
          >
            {s.name}
          </Checkbox>
        ))}
        <span className="quiet">
          in the colourway {document.colourways.find((c) => c.value.id === colourwayId)?.value.name}
        </span>
        <h2>As what</h2>
        <Radio.Group
          value={preset}
          onChange={(e) => setPreset(e.target.value as Preset)}
          style={{ display: 'grid', gap: 8 }}
        >
          {Object.entries(PRESETS).map(([key, p]) => (
            <Radio key={key} value={key}>
              <strong>{p.label}</strong>
              <div className="quiet">{p.detail}</div>
            </Radio>
          ))}
        </Radio.Group>
        <h2>Checks</h2>
        {chosen.length === 0 && <span className="quiet">No shot is chosen.</span>}
        {chosen.length > 0 && checks.length === 0 && <span>✓ Nothing to mend.</span>}
        {checks.map(({ mark, text }) => (
          <span key={text}>
            {mark} {text}
          </span>
        ))}
        <Button type="primary" loading={isLoading} disabled={chosen.length === 0} onClick={() => void go()}>
          {renderText(chosen.length)}
        </Button>
      </div>
      <div className="page">
        <Deliveries deliveries={deliveries} />
      </div>
    </>
  );
}
