// How long it takes until all that a recipe touches is measured anew after an edit of it: each recipe of the demo in
// turn, each twice; the first time round is told apart, since nothing is kept of its frames and mattes then.
import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { startServer } from '../e2e/server.ts';

export interface MeasuringResult {
  /** Seconds of each edit, rising, and how many sightings the edits of a round touch. */
  first: number[];
  again: number[];
  sightings: number;
}
interface Document {
  recipes: { value: { id: string; strength: number }; revision: number }[];
}

export async function benchMeasuring(): Promise<MeasuringResult> {
  const server = await startServer();
  const json = async <T>(path: string, init?: RequestInit) =>
    (await (await fetch(server.url + path, init)).json()) as T;
  try {
    await server.rest();
    const projects = await json<{ id: string; name: string }[]>('/api/projects');
    const at = `/api/projects/${projects.find((p) => p.name === 'Slow Morning')!.id}`;
    const stale = async () => (await json<{ fresh: boolean }[]>(`${at}/measurements`)).filter((m) => !m.fresh).length;
    let sightings = 0;
    const round = async (by: number): Promise<number[]> => {
      const all: number[] = [];
      const { recipes } = await json<Document>(at);
      for (const { value, revision } of recipes) {
        const edits = [{ kind: 'recipe', id: value.id, revision, value: { ...value, strength: value.strength * by } }];
        const body = JSON.stringify({ id: randomUUID(), label: 'Strength', edits });
        const begun = performance.now();
        await json(`${at}/changes`, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
        const touched = await stale();
        while ((await stale()) > 0) await pause(50);
        // of a recipe of nothing there is nothing to measure
        if (touched > 0) all.push((performance.now() - begun) / 1000);
        sightings += touched;
      }
      return all.sort((a, b) => a - b);
    };
    const first = await round(0.9);
    sightings = 0;
    return { first, again: await round(0.9), sightings };
  } finally {
    await server.close();
  }
}
