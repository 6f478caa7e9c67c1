import { Button, Select, Upload } from 'antd';
import { useState } from 'react';
import { readMeasurementFile, type MeasuredSample } from '@mellow/core';

/** A required colour from a measurement file of a physical sample; of several the one that is chosen. */
export function FromFile({ onTake }: { onTake: (sample: MeasuredSample) => void }) {
  const [samples, setSamples] = useState<readonly MeasuredSample[]>([]);
  const [problem, setProblem] = useState<string | undefined>();
  const read = async (file: File) => {
    try {
      const found = readMeasurementFile(await file.text());
      setSamples(found);
      setProblem(undefined);
      onTake(found[0]!);
    } catch (error) {
      setSamples([]);
      setProblem(`“${file.name}” cannot be read. ${error instanceof Error ? error.message : String(error)}`);
    }
  };
  return (
    <>
      <div className="row">
        <Upload
          accept=".txt,.cgats,.cie,.ti3,text/plain"
          showUploadList={false}
          beforeUpload={(file) => {
            void read(file);
            return false;
          }}
        >
          <Button size="small">From a measurement file</Button>
        </Upload>
        {samples.length > 1 && (
          <Select
            size="small"
            className="grow"
            aria-label="Sample"
            showSearch={{ optionFilterProp: 'label' }}
            defaultValue={0}
            options={samples.map((s, value) => ({ value, label: s.name }))}
            onChange={(k) => onTake(samples[k]!)}
          />
        )}
      </div>
      {problem && <div role="alert">{problem}</div>}
    </>
  );
}
