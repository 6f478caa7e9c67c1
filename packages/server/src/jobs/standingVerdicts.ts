import type { ProjectDocument, StandingVerdict } from '@mellow/contract';
import type { Queryable } from '../db/pool.ts';
import { lastVerdictsOfProject } from '../db/verdicts.ts';
import { measurementInputs } from './measureWork.ts';

/** The last that was said of each sighting in each colourway, and whether it is of what is there now. */
export async function standingVerdicts(db: Queryable, document: ProjectDocument): Promise<StandingVerdict[]> {
  const last = await lastVerdictsOfProject(db, document.project.value.id);
  const inputsOf = measurementInputs(document);
  return last.map(({ verdict, inputs }) => ({
    ...verdict,
    holds: inputs === inputsOf(verdict.sightingId, verdict.colourwayId),
  }));
}
