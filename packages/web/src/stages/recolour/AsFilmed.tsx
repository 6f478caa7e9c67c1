import { Select } from 'antd';
import { useMeasurementsQuery } from '../../data/api.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { filmedColours, type Filmed } from './filmedColours.ts';

/** Continuity: the required colour is the one the piece has in a shot as it was filmed. */
export function AsFilmed({ inHand, onTake }: { inHand: InHand; onTake: (filmed: Filmed) => void }) {
  const { document, piece } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const filmed = filmedColours(document, measurements, piece?.id);
  if (filmed.length === 0) return null;
  return (
    <Select
      size="small"
      style={{ width: '100%' }}
      aria-label="As it is in a shot"
      placeholder="As it is in a shot …"
      value={null}
      options={filmed.map(({ shot }, value) => ({ value, label: `As it is in ${shot.name}` }))}
      onChange={(k: number | null) => k !== null && onTake(filmed[k]!)}
    />
  );
}
