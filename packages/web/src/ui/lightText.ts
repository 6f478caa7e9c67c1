const MIRED_IN_WORDS = 8;
const STOPS_IN_WORDS = 0.05;
/** A shot's light against the reference shot's, what differs alone: “warmer, 0.4 stops darker”. */
export function lightText(light: { warmerMired: number; lighterStops: number } | undefined): string {
  if (!light) return 'light not taken';
  const { warmerMired, lighterStops } = light;
  const said: string[] = [];
  if (Math.abs(warmerMired) >= MIRED_IN_WORDS) said.push(warmerMired > 0 ? 'warmer' : 'cooler');
  if (Math.abs(lighterStops) >= STOPS_IN_WORDS)
    said.push(`${Math.abs(lighterStops).toFixed(1)} stops ${lighterStops > 0 ? 'lighter' : 'darker'}`);
  return said.join(', ') || 'same light';
}
