import { expect, it } from 'vitest';
import { renamedProject } from './renamedProject.ts';

const id = '00000000-0000-4000-8000-000000000001';
const project = {
  value: { id, name: 'Morning', tolerance: 1, referenceShotId: null, look: null, viewTable: null },
  revision: 4,
};
const parts = 'shots pieces colourways requirements recipes sightings tracks versions stills media plates'.split(' ');
const document = {
  project,
  ...Object.fromEntries(parts.map((part) => [part, []])),
  trackedFrames: {},
  carried: {},
  proxies: {},
  history: { undo: null, redo: null },
};

it('gives a project another name as an edit of what is there now', async () => {
  const sent: unknown[] = [];
  const send = (async (url: string, init?: RequestInit) => {
    if (init?.method !== 'POST') return new Response(JSON.stringify(document));
    sent.push([url, JSON.parse(init.body as string)]);
    return new Response(JSON.stringify({ seq: 1, revisions: {}, history: document.history }));
  }) as unknown as typeof fetch;
  await renamedProject(id, 'Evening', send);
  const edits = [{ kind: 'project', id, revision: 4, value: { ...project.value, name: 'Evening' } }];
  expect(sent).toEqual([
    [`/api/projects/${id}/changes`, expect.objectContaining({ label: 'Rename the project Morning', edits })],
  ]);
});
it('sends no edit where the project cannot be read', async () => {
  const send = (async () => new Response('{}', { status: 404 })) as unknown as typeof fetch;
  expect((await renamedProject(id, 'Evening', send)).error?.status).toBe(404);
});
