import type { MenuProps } from 'antd';
import { useNavigate } from 'react-router';
import type { Shot } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { setReferenceShot } from '../commands/match.ts';
import { moveShotTo, removeShot } from '../commands/shots.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { moved } from '../view/whereSlice.ts';

/** What can be done with a shot as a whole. */
export function useShotMenu({ document, piece }: InHand, shot: Shot, at: number): MenuProps {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { id: projectId, referenceShotId } = document.project.value;
  const openIn = (stage: string) => () => {
    dispatch(moved({ shotId: shot.id }));
    void navigate(`/projects/${projectId}/${stage}`);
  };
  const now = () => documentOf(projectId) ?? document;
  const acts: Record<string, () => void> = {
    isolate: openIn('isolate'),
    recolour: openIn('recolour'),
    shots: openIn('shots'),
    reference: () => edit(projectId, setReferenceShot(now(), shot)),
    earlier: () => edit(projectId, moveShotTo(now(), shot, at - 1)),
    later: () => edit(projectId, moveShotTo(now(), shot, at + 1)),
    remove: () => edit(projectId, removeShot(shot)),
  };
  return {
    items: [
      { key: 'isolate', label: piece ? `Isolate ${piece.name} here` : 'Open in Isolate' },
      { key: 'recolour', label: piece ? `Recolour ${piece.name} here` : 'Open in Recolour' },
      { key: 'shots', label: 'Its footage and balance' },
      { type: 'divider' },
      { key: 'reference', label: 'Make it the reference shot', disabled: shot.id === referenceShotId },
      { key: 'earlier', label: 'Move it one earlier', disabled: at === 0 },
      { key: 'later', label: 'Move it one later', disabled: at === document.shots.length - 1 },
      { key: 'remove', label: 'Remove it with its mattes' },
    ],
    onClick: ({ key }) => acts[key]!(),
  };
}
