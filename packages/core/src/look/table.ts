import { clfAt, type Clf } from './clfSteps.ts';
import type { Cube } from './cube.ts';
import { cubeAt, type OnCodes } from './cubeAt.ts';

/** A look-up table as files have it: the Cube LUT Specification's, or the steps of the Common LUT Format. */
export type LookTable = Cube | Clf;

/** A table as a function. */
export const tableAt = (table: LookTable): OnCodes => (table.kind === 'CLF' ? clfAt(table) : cubeAt(table));

/** The same table with its numbers where `placed` puts them: in memory that threads share, say. */
export function withPlacedNumbers(table: LookTable, placed: (values: Float32Array) => Float32Array): LookTable {
  if (table.kind !== 'CLF') return { ...table, values: placed(table.values) };
  const steps = table.steps.map((step) => {
    if (step.op === 'halfTable') return { ...step, values: placed(step.values) };
    return step.op === 'table' ? { ...step, table: { ...step.table, values: placed(step.table.values) } } : step;
  });
  return { ...table, steps };
}
