import { Bar, BarChart, CartesianGrid, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { deltaEOf, afterOf } from '../../ui/colour.ts';
import type { PieceRow } from './sightings.ts';

/** ΔE00 of a piece to its requirement, a bar for each shot, against the tolerance. */
export function ShotBars({ row, tolerance }: { row: PieceRow; tolerance: number }) {
  const bars = row.sightings.flatMap(({ shot, measured }) => {
    const deltaE = deltaEOf(afterOf(measured, row.requirement), row.requirement, shot);
    return deltaE === undefined ? [] : [{ shot: shot.name, deltaE }];
  });
  if (bars.length === 0) return null;
  return (
    <section className="card chart">
      <h2>{row.piece.name}: ΔE00 by shot</h2>
      <ResponsiveContainer width="100%" height={180}>
        <BarChart data={bars} margin={{ top: 8, right: 12, bottom: 0, left: -20 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="shot" stroke="var(--quiet)" fontSize={12} />
          <YAxis stroke="var(--quiet)" fontSize={12} domain={[0, (most: number) => Math.max(most, 1.2 * tolerance)]} />
          <Tooltip
            cursor={{ fill: 'var(--raised)' }}
            contentStyle={{ background: 'var(--raised)', border: '1px solid var(--line)' }}
            formatter={(v) => Number(v).toFixed(2)}
          />
          <ReferenceLine
            y={tolerance}
            stroke="var(--text)"
            strokeDasharray="4 3"
            label={{ value: 'tolerance', fill: 'var(--quiet)', fontSize: 12, position: 'insideTopRight' }}
          />
          <Bar dataKey="deltaE" name="ΔE00" fill="var(--quiet)" maxBarSize={36} isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </section>
  );
}
