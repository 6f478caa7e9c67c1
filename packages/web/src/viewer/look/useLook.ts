import { useState } from 'react';
import type { CubeFile, ProjectDocument } from '@mellow/contract';
import { NEUTRAL_CDL, STRAIGHT_LOOK_CURVES, type Cdl, type LookCurves } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import { lookThere, setCdl, setCube, setCurves, withCdl, withCurves, type Whose } from '../../commands/looks.ts';
import { documentOf, edit } from '../../editing/editing.ts';
import { askForText, saveFile } from '../../ui/saveFile.ts';
import { dragged } from '../../view/draftSlice.ts';

/** The look of a shot or of the project, and all that a hand does to it. */
export function useLook(document: ProjectDocument, whose: Whose) {
  const dispatch = useAppDispatch();
  const { id: projectId, name } = document.project.value;
  const [problem, setProblem] = useState<string>();
  const now = () => documentOf(projectId) ?? document;
  const look = lookThere(document, whose);
  const cdl = look.cdl ?? NEUTRAL_CDL;
  return {
    cdl,
    curves: look.curves ?? STRAIGHT_LOOK_CURVES,
    hasCdl: look.cdl !== null,
    hasCurves: look.curves !== null,
    problem,
    setProblem,
    now,
    dragCdl: (changed: Partial<Cdl>) => dispatch(dragged({ look: { whose, look: withCdl(look, changed) } })),
    saveCdl: (label: string, changed: Partial<Cdl>) => edit(projectId, setCdl(now(), whose, label, changed)),
    dragCurves: (changed: Partial<LookCurves>) =>
      dispatch(dragged({ look: { whose, look: withCurves(look, changed) } })),
    saveCurves: (label: string, changed: Partial<LookCurves>) =>
      edit(projectId, setCurves(now(), whose, label, changed)),
    setCube: (cube: CubeFile | null) => edit(projectId, setCube(now(), whose, cube)),
    openCdlFile: async () => {
      const text = await askForText('.cc,.ccc,.cdl');
      if (text === undefined) return;
      try {
        const { readCdl } = await import('../../commands/cdlFile.ts');
        edit(projectId, setCdl(now(), whose, 'The CDL', readCdl(text)));
        setProblem(undefined);
      } catch (error) {
        setProblem(`The CDL is not read. ${error instanceof Error ? error.message : String(error)}`);
      }
    },
    saveCdlFile: async () => {
      const { cdlText } = await import('../../commands/cdlFile.ts');
      saveFile(`${name}.cc`, cdlText(name, cdl), 'application/xml');
    },
  };
}
export type LookInHand = ReturnType<typeof useLook>;
