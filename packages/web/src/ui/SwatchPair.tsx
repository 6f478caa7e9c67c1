/** The mark and the piece's from → to: two overlapping rounded squares. */
export function SwatchPair({ from, to, size = 20 }: { from: string | null; to: string | null; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 32 32"
      role="img"
      aria-label={`from ${from ?? 'not measured'} to ${to ?? 'no requirement'}`}
      style={{ flex: 'none' }}
    >
      <rect
        x="3"
        y="3"
        width="18"
        height="18"
        rx="5"
        fill={from ?? 'none'}
        stroke="currentColor"
        strokeOpacity={from ? 0 : 0.5}
        strokeDasharray="3 2"
      />
      <rect
        x="11"
        y="11"
        width="18"
        height="18"
        rx="5"
        fill={to ?? 'none'}
        stroke="currentColor"
        strokeOpacity={to ? 0 : 0.5}
        strokeDasharray="3 2"
      />
    </svg>
  );
}
