import type { CodePicture, Encoding, measureSighting, SightingRender } from '@mellow/core';

export interface FrameTask {
  codes: CodePicture;
  encoding: Encoding;
  /** This size over the full resolution. */
  scale: number;
  sightings: readonly SightingRender[];
}
export type Request = { id: number } & FrameTask & ({ kind: 'render' } | { kind: 'measure'; index: number });
export type Answer = { id: number } & ({ ok: true; codes?: CodePicture; measured?: ReturnType<typeof measureSighting> } | { ok: false; message: string });
