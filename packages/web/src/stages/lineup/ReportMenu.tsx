import { Button, Dropdown } from 'antd';
import { FileText } from 'lucide-react';
import type { SightingMeasurements } from '@mellow/contract';
import { tellProblem } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useReport } from './useReport.ts';

interface Props {
  inHand: InHand;
  measurements: readonly SightingMeasurements[];
}
/** All that is known of the line-up as a file, in every colourway. */
export function ReportMenu({ inHand, measurements }: Props) {
  const { save, making, cancel } = useReport(inHand, measurements);
  const items = [
    { key: 'pdf', label: 'Report with pictures (PDF)' },
    { key: 'csv', label: 'Report, a row a sighting (CSV)' },
    { key: 'cgats', label: 'Required and measured colours (CGATS.17)' },
  ];
  if (making)
    return (
      <Button size="small" onClick={cancel} title="Stop making the report">
        Picture {making.done + 1} of {making.total}: cancel
      </Button>
    );
  return (
    <Dropdown
      trigger={['click']}
      menu={{ items, onClick: ({ key }) => void save(key as 'pdf' | 'csv' | 'cgats').catch(tellProblem) }}
    >
      <Button size="small" icon={<FileText size={14} />}>
        Report
      </Button>
    </Dropdown>
  );
}
