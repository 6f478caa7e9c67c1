// Edits made beside the interface: what a bench or a picture begins with.
import { randomUUID } from 'node:crypto';

/** Makes edits of a project one step. Throws what the server says where it refuses them. */
export async function changeProject(server: { url: string }, projectId: string, label: string, edits: object[]) {
  const response = await fetch(`${server.url}/api/projects/${projectId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ id: randomUUID(), label, edits }),
  });
  if (!response.ok) throw new Error(await response.text());
}
