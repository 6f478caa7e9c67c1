import { App, Button, Checkbox, Progress, Radio, Table } from 'antd';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { PRESETS, type Delivery, type Preset, type ShotId } from '@mellow/contract';
import {
  problemText,
  useCancelJobMutation,
  useDeliveriesQuery,
  useMeasurementsQuery,
  useRenderMutation,
  useRetryJobMutation,
} from '../../app/api.ts';
import type { InHand } from '../../app/useProject.ts';
import { deltaEOf, toleranceOf } from '../../ui/colour.tsx';

const STATE: Record<Delivery['job']['state'], string> = {
  queued: 'waiting',
  running: 'rendering',
  done: '✓ done',
  failed: '✕ failed',
  cancelled: 'cancelled',
};
const remaining = ({ job }: Delivery): string => {
  if (!job.startedAt || job.done < 2) return '';
  const perFrame = (Date.now() - Date.parse(job.startedAt)) / job.done;
  return `${Math.max(Math.ceil((perFrame * (job.total - job.done)) / 1000), 0)} s left`;
};

export default function DeliverStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const { message } = App.useApp();
  const { data: deliveries = [] } = useDeliveriesQuery(projectId, {
    pollingInterval: 1500,
    skipPollingIfUnfocused: true,
  });
  const [render, { isLoading }] = useRenderMutation();
  const [cancel] = useCancelJobMutation();
  const [retry] = useRetryJobMutation();
  // shots in which something is isolated are chosen, until the user says otherwise
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const sighted = new Set<string>(
    document.sightings.filter((s) => s.value.layers.length > 0).map((s) => s.value.shotId),
  );
  const isChosen = (id: string) => said[id] ?? sighted.has(id);
  const [preset, setPreset] = useState<Preset>('ffv1');
  const shots = document.shots.map((s) => s.value);
  const chosen = shots.filter((s) => isChosen(s.id));
  const warnings = useChecks(
    inHand,
    chosen.map((s) => s.id),
  );
  const go = async () => {
    const answer = await render({
      projectId,
      shotIds: chosen.map((s) => s.id as ShotId),
      colourwayId: colourwayId as never,
      preset,
    });
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
        {warnings.length === 0 ? <span>✓ Nothing to mend.</span> : warnings.map((w) => <span key={w}>≈ {w}</span>)}
        <Button type="primary" loading={isLoading} disabled={chosen.length === 0} onClick={() => void go()}>
          Render {chosen.length} {chosen.length === 1 ? 'shot' : 'shots'}
        </Button>
      </div>
      <div className="page">
        <Table<Delivery>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={deliveries}
          locale={{ emptyText: 'Nothing rendered yet.' }}
          columns={[
            { title: 'Shot', dataIndex: 'shotName' },
            { title: 'Colourway', dataIndex: 'colourwayName' },
            { title: 'As', render: (_, d) => PRESETS[d.preset].label },
            {
              title: 'State',
              width: 260,
              render: (_, d) =>
                d.job.state === 'running' ? (
                  <>
                    <Progress percent={Math.round((100 * d.job.done) / d.job.total)} size="small" />
                    <span className="quiet mono">
                      {d.job.done} / {d.job.total} {remaining(d)}
                    </span>
                  </>
                ) : (
                  <>
                    {STATE[d.job.state]}
                    {d.job.message ? `: ${d.job.message}` : ''}
                  </>
                ),
            },
            { title: 'Size', align: 'right', render: (_, d) => (d.bytes ? `${(d.bytes / 1e6).toFixed(1)} MB` : '') },
            {
              title: '',
              render: (_, d) => {
                if (d.job.state === 'done')
                  return (
                    <Button
                      size="small"
                      icon={<Download size={14} />}
                      href={`/api/deliveries/${d.id}/file`}
                      aria-label={`Download ${d.fileName}`}
                    >
                      {d.fileName}
                    </Button>
                  );
                if (d.job.state === 'queued' || d.job.state === 'running')
                  return (
                    <Button size="small" onClick={() => void cancel(d.job.id)}>
                      Cancel
                    </Button>
                  );
                return (
                  <Button size="small" onClick={() => void retry(d.job.id)}>
                    Start again
                  </Button>
                );
              },
            },
          ]}
        />
      </div>
    </>
  );
}

/** What a careful hand looks at before rendering. */
function useChecks({ document, colourwayId }: InHand, shotIds: string[]): string[] {
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const found: string[] = [];
  for (const { value: shot } of document.shots.filter((s) => shotIds.includes(s.value.id))) {
    const here = document.sightings.filter((s) => s.value.shotId === shot.id && s.value.layers.length > 0);
    if (here.length === 0) found.push(`${shot.name}: no piece is isolated; it will be rendered unchanged.`);
    for (const { value: sighting } of here) {
      const piece = document.pieces.find((p) => p.value.id === sighting.pieceId)!.value;
      const requirement = document.requirements.find(
        (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
      )?.value;
      const measured = measurements.find((m) => m.sightingId === sighting.id && m.colourwayId === colourwayId);
      if (!measured?.fresh) found.push(`${shot.name}: the ${piece.name} is still being measured.`);
      else if (measured.frames.length < measured.measuredFrames)
        found.push(
          `${shot.name}: the matte of the ${piece.name} is empty on ${measured.measuredFrames - measured.frames.length} frames.`,
        );
      const deltaE = deltaEOf(
        measured?.frames.map((f) => f.after),
        requirement,
      );
      const tolerance = toleranceOf(requirement, document.project.value.tolerance);
      if (deltaE !== undefined && deltaE > tolerance)
        found.push(
          `${shot.name}: the ${piece.name} is ΔE00 ${deltaE.toFixed(2)} from ${requirement!.name} (tolerance ${tolerance}).`,
        );
    }
  }
  return found;
}
