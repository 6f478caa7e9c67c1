// Footage read in another way than its file states: the shots made of it stand on the same files, read so.
import type { Media, ProjectDocument, Reading } from '@mellow/contract';
import type { Change } from '../editing/change.ts';

/** How footage is read now. */
export const readingOf = ({ matrix, range, isDeinterlaced }: Media): Reading =>
  ({ matrix, range, isDeinterlaced }) as Reading;

/** All shots of one footage are read as another media of the same files. */
export function readFootage(document: ProjectDocument, was: Media, now: Media): Change {
  const said = [
    ...(now.matrix === was.matrix ? [] : [now.matrix]),
    ...(now.range === was.range ? [] : [`${now.range} range`]),
    ...(now.isDeinterlaced === was.isDeinterlaced ? [] : [now.isDeinterlaced ? 'deinterlaced' : 'interlaced']),
  ];
  return {
    label: `Read ${was.name} as ${said.join(', ')}`.slice(0, 200),
    edits:
      was.id === now.id
        ? []
        : document.shots
            .filter(({ value }) => value.mediaId === was.id)
            .map(({ value }) => ({ kind: 'shot' as const, id: value.id, value: { ...value, mediaId: now.id } })),
  };
}
