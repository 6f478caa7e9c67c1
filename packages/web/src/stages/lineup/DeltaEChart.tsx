import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { deltaERows, type PieceRow } from './sightings.ts';

const DASHES = ['', '6 3', '2 2', '8 2 2 2'];

/** ΔE00 of a piece to its requirement, frame by frame, a line for each shot. */
export function DeltaEChart({ row, tolerance }: { row: PieceRow; tolerance: number }) {
  const rows = deltaERows(row);
  if (rows.length === 0) return null;
  return (
    <section className="card chart">
      <h2>
        {row.piece.name}: ΔE00 to {row.requirement?.name}, frame by frame
      </h2>
      <ResponsiveContainer width="100%" height={180}>
        <LineChart data={rows} margin={{ top: 8, right: 12, bottom: 0, left: -20 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="frame" stroke="var(--quiet)" fontSize={12} />
          <YAxis stroke="var(--quiet)" fontSize={12} domain={[0, 'auto']} />
          <Tooltip
            contentStyle={{ background: 'var(--raised)', border: '1px solid var(--line)' }}
            formatter={(v) => Number(v).toFixed(2)}
          />
          <ReferenceLine
            y={tolerance}
            stroke="var(--text)"
            strokeDasharray="4 3"
            label={{ value: 'tolerance', fill: 'var(--quiet)', fontSize: 12, position: 'insideTopRight' }}
          />
          {row.sightings.map(({ shot }, i) => (
            <Line
              key={shot.id}
              dataKey={shot.id}
              name={shot.name}
              stroke="var(--text)"
              strokeDasharray={DASHES[i % DASHES.length]}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </section>
  );
}
