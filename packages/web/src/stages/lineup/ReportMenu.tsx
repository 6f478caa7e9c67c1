import { Button, Dropdown } from 'antd';
import { FileText } from 'lucide-react';
import type { ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { tellProblem } from '../../editing/editing.ts';
import { saveFile } from '../../ui/saveFile.ts';

interface Props {
  document: ProjectDocument;
  measurements: readonly SightingMeasurements[];
}
/** All numbers of the line-up as a file, in every colourway. */
export function ReportMenu({ document, measurements }: Props) {
  const { name } = document.project.value;
  const save = async (key: string) => {
    const { reportCgats, reportCsv } = await import('./report.ts');
    if (key === 'csv') saveFile(`${name} report.csv`, reportCsv(document, measurements), 'text/csv');
    else saveFile(`${name} colours.txt`, reportCgats(document, measurements, new Date().toISOString()), 'text/plain');
  };
  const items = [
    { key: 'csv', label: 'Report, a row a sighting (CSV)' },
    { key: 'cgats', label: 'Required and measured colours (CGATS.17)' },
  ];
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => void save(key).catch(tellProblem) }}>
      <Button size="small" icon={<FileText size={14} />}>
        Report
      </Button>
    </Dropdown>
  );
}
