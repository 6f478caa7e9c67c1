import { Button } from 'antd';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Piece, Shot } from '@mellow/contract';
import { ciede2000, drift, lchFromLab, shotColour, spread } from '@mellow/core';
import { useMeasurementsQuery } from '../../app/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { momentAt, type InHand } from '../../app/useProject.ts';
import { placeChanged } from '../../app/viewSlice.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { DeltaE, deltaEOf, meanHex, requiredHex, requiredLab, toleranceOf } from '../../ui/colour.tsx';

/** Every sighting of every piece side by side, measured against its requirement. */
export default function LineupStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const of = (piece: Piece, shot: Shot) => {
    const sighting = document.sightings.find((s) => s.value.pieceId === piece.id && s.value.shotId === shot.id)?.value;
    return {
      sighting,
      measured: sighting && measurements.find((m) => m.sightingId === sighting.id && m.colourwayId === colourwayId),
    };
  };
  if (document.pieces.length === 0) return <div className="empty">No piece yet. Add one at the Isolate stage.</div>;
  const chartRows: Record<string, number>[] = [];
  const inHandRequirement = inHand.requirement;
  for (const { value: shot } of document.shots) {
    if (!inHand.piece || !inHandRequirement) break;
    of(inHand.piece, shot).measured?.frames.forEach((f) => {
      (chartRows[f.frame] ??= { frame: f.frame })[shot.name] = ciede2000(f.after.lab, requiredLab(inHandRequirement));
    });
  }
  return (
    <div className="page">
      <table className="lineup">
        <thead>
          <tr>
            <th />
            {document.shots.map(({ value: s }) => (
              <th key={s.id}>{s.name}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {document.pieces.map(({ value: piece }) => {
            const requirement = document.requirements.find(
              (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
            )?.value;
            const colours = document.shots.flatMap(
              ({ value: shot }) => shotColour(of(piece, shot).measured?.frames.map((f) => f.after) ?? []) ?? [],
            );
            return (
              <tr key={piece.id}>
                <th style={{ minWidth: 120, verticalAlign: 'top' }}>
                  {piece.name}
                  <div className="quiet" style={{ fontWeight: 400 }}>
                    {requirement?.name ?? 'no requirement'}
                  </div>
                  {colours.length > 1 && (
                    <div className="mono" style={{ fontWeight: 400 }} title="Largest ΔE00 between two sightings">
                      spread {spread(colours).toFixed(2)}
                    </div>
                  )}
                </th>
                {document.shots.map(({ value: shot }) => {
                  const { sighting, measured } = of(piece, shot);
                  const after = measured?.frames.map((f) => f.after);
                  const lab = after && shotColour(after);
                  return (
                    <td key={shot.id} data-cell={`${piece.name} ${shot.name}`}>
                      {!sighting?.layers.length ? (
                        <Open
                          piece={piece}
                          shot={shot}
                          stage="isolate"
                          label="Isolate here"
                          note="Not isolated in this shot."
                          inHand={inHand}
                        />
                      ) : (
                        <>
                          <Crop piece={piece} shot={shot} inHand={inHand} />
                          <div className="patches">
                            <div style={{ background: meanHex(after ?? []) ?? 'transparent' }} title="measured" />
                            <div style={{ background: requiredHex(requirement) ?? 'transparent' }} title="required" />
                          </div>
                          <div className="row quiet">
                            measured | required
                            <span style={{ flex: 1 }} />
                            <DeltaE
                              value={deltaEOf(after, requirement)}
                              tolerance={toleranceOf(requirement, document.project.value.tolerance)}
                              fresh={measured?.fresh ?? false}
                            />
                          </div>
                          {lab && after && (
                            <div className="mono quiet">
                              {(({ L, C, hDeg }) => `L ${L.toFixed(1)} C ${C.toFixed(1)} h ${hDeg.toFixed(0)}°`)(
                                lchFromLab(lab),
                              )}{' '}
                              · drift {drift(after).toFixed(2)}
                            </div>
                          )}
                          <Open piece={piece} shot={shot} stage="recolour" label="Open" inHand={inHand} />
                        </>
                      )}
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
      {chartRows.some(Boolean) && (
        <section className="card" style={{ margin: 10, maxWidth: 900 }}>
          <h2>
            {inHand.piece?.name}: ΔE00 to {inHandRequirement?.name}, frame by frame
          </h2>
          <ResponsiveContainer width="100%" height={180}>
            <LineChart data={chartRows.filter(Boolean)} margin={{ top: 8, right: 12, bottom: 0, left: -20 }}>
              <CartesianGrid stroke="var(--line)" vertical={false} />
              <XAxis dataKey="frame" stroke="var(--quiet)" fontSize={11} />
              <YAxis stroke="var(--quiet)" fontSize={11} domain={[0, 'auto']} />
              <Tooltip
                contentStyle={{ background: 'var(--raised)', border: '1px solid var(--line)' }}
                formatter={(v) => Number(v).toFixed(2)}
              />
              <ReferenceLine
                y={toleranceOf(inHandRequirement, document.project.value.tolerance)}
                stroke="var(--text)"
                strokeDasharray="4 3"
                label={{ value: 'tolerance', fill: 'var(--quiet)', fontSize: 11, position: 'insideTopRight' }}
              />
              {document.shots.map(({ value: s }, i) => (
                <Line
                  key={s.id}
                  dataKey={s.name}
                  stroke="var(--text)"
                  strokeDasharray={['', '6 3', '2 2', '8 2 2 2'][i % 4]!}
                  dot={false}
                  isAnimationActive={false}
                />
              ))}
            </LineChart>
          </ResponsiveContainer>
        </section>
      )}
    </div>
  );
}

function Open({
  piece,
  shot,
  stage,
  label,
  note,
  inHand,
}: {
  piece: Piece;
  shot: Shot;
  stage: string;
  label: string;
  note?: string;
  inHand: InHand;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    <div style={{ marginTop: 6 }}>
      {note && <p className="quiet">{note}</p>}
      <Button
        size="small"
        onClick={() => {
          dispatch(placeChanged({ pieceId: piece.id, shotId: shot.id, layerId: null }));
          void navigate(`/projects/${inHand.document.project.value.id}/${stage}`);
        }}
      >
        {label}
      </Button>
    </div>
  );
}

/** The piece on the shot's middle frame: source on the left of the divide, result on the right. */
function Crop({
  piece,
  shot,
  inHand: { document, colourwayId, motionsOf },
}: {
  piece: Piece;
  shot: Shot;
  inHand: InHand;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  const ready = document.proxies[media.id]?.state === 'done';
  useEffect(() => {
    if (!ready) return;
    let wanted = true;
    const motions = motionsOf(shot.id);
    void frameClient()
      .ask({
        kind: 'crop',
        ...momentAt(document, shot, media, colourwayId, piece.id, Math.floor(media.frames / 2), motions),
      })
      .then(
        (answer) => {
          const c = canvas.current;
          if (!wanted || !c) return;
          const g = c.getContext('2d')!;
          g.clearRect(0, 0, c.width, c.height);
          if (!answer) return;
          const small = window.document.createElement('canvas');
          Object.assign(small, { width: answer.before.width, height: answer.before.height });
          const k = Math.min(c.width / small.width, c.height / small.height);
          const [x, y] = [(c.width - k * small.width) / 2, (c.height - k * small.height) / 2];
          const half = Math.round(small.width / 2);
          small.getContext('2d')!.putImageData(new ImageData(answer.before.rgba, small.width, small.height), 0, 0);
          g.drawImage(small, 0, 0, half, small.height, x, y, half * k, small.height * k);
          small.getContext('2d')!.putImageData(new ImageData(answer.after.rgba, small.width, small.height), 0, 0);
          g.drawImage(
            small,
            half,
            0,
            small.width - half,
            small.height,
            x + half * k,
            y,
            (small.width - half) * k,
            small.height * k,
          );
        },
        () => undefined,
      );
    return () => void (wanted = false);
  }, [document, shot, piece, colourwayId, media, ready, motionsOf]);
  return (
    <canvas
      ref={canvas}
      className="crop"
      width={552}
      height={360}
      role="img"
      aria-label={`${piece.name} in ${shot.name}: before on the left, after on the right`}
    />
  );
}
