import { CartesianGrid, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts';
import { mapPoints, type PieceRow } from './sightings.ts';

interface Dot {
  cx?: number;
  cy?: number;
  payload?: { colour: string; isRequired: boolean };
}
/** Measured colours are filled with themselves; required ones are rings. */
function drawDot({ cx = 0, cy = 0, payload }: Dot) {
  if (!payload) return <g />;
  return payload.isRequired ? (
    <circle cx={cx} cy={cy} r={8} fill="none" stroke="var(--text)" strokeDasharray="3 2" />
  ) : (
    <circle cx={cx} cy={cy} r={4.5} fill={payload.colour} stroke="var(--text)" strokeWidth={0.7} />
  );
}

/** All sightings of all pieces in one map of hue and chroma (CIELAB a*, b*, reference light). */
export function HueMap({ rows }: { rows: readonly PieceRow[] }) {
  const points = mapPoints(rows);
  if (points.length === 0) return null;
  const reach = Math.ceil(Math.max(20, ...points.flatMap((p) => [Math.abs(p.a), Math.abs(p.b)])) / 20) * 20;
  const axis = { type: 'number' as const, domain: [-reach, reach], stroke: 'var(--quiet)', fontSize: 12, tickCount: 5 };
  return (
    <section className="card chart">
      <h2>All sightings: hue and chroma</h2>
      <ResponsiveContainer width="100%" height={180}>
        <ScatterChart margin={{ top: 8, right: 12, bottom: 0, left: -20 }}>
          <CartesianGrid stroke="var(--line)" />
          <XAxis dataKey="a" name="a*" {...axis} />
          <YAxis dataKey="b" name="b*" {...axis} />
          <Tooltip
            contentStyle={{ background: 'var(--raised)', border: '1px solid var(--line)' }}
            formatter={(v) => Number(v).toFixed(1)}
            labelFormatter={() => ''}
          />
          <Scatter data={points} shape={drawDot} isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </section>
  );
}
