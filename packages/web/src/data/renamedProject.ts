import type { AnswerOf, ChangeId } from '@mellow/contract';
import { ask, type Answered } from './requests.ts';

/** Gives a project another name as an edit of its own, that its history can undo. */
export async function renamedProject(
  projectId: string,
  name: string,
  send: typeof fetch = fetch,
): Promise<Answered<AnswerOf<'change'>>> {
  const found = await ask('getProject', { params: { projectId } }, send);
  if (found.error) return found;
  const { value, revision } = found.data.project;
  const body = {
    id: crypto.randomUUID() as ChangeId,
    label: `Rename the project ${value.name}`,
    edits: [{ kind: 'project' as const, id: value.id, revision, value: { ...value, name } }],
  };
  return ask('change', { params: { projectId }, body }, send);
}
