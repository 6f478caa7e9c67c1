import type { MenuProps } from 'antd';
import { useNavigate } from 'react-router';
import { framesOf, type Shot } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { setReferenceShot } from '../commands/match.ts';
import { continuationOf, joinShots, splitShot, trimShot, untrimShot } from '../commands/cutting.ts';
import { moveShotTo, removeShot } from '../commands/shots.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { moved } from '../view/whereSlice.ts';

/** What can be done with a shot as a whole. */
export function useShotMenu(inHand: InHand, shot: Shot, at: number): MenuProps {
  const { document, piece } = inHand;
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { id: projectId, referenceShotId } = document.project.value;
  const openIn = (stage: string) => () => {
    dispatch(moved({ shotId: shot.id }));
    void navigate(`/projects/${projectId}/${stage}`);
  };
  const now = () => documentOf(projectId) ?? document;
  const frameInHand = useFrame(inHand);
  const media = document.media.find((m) => m.id === shot.mediaId);
  const span = media && framesOf(shot, media);
  // cuts are made at the frame one sees: that of the shot in hand
  const frame = inHand.shot?.id === shot.id ? frameInHand : undefined;
  const next = continuationOf(document, shot);
  const isInside = span !== undefined && frame !== undefined;
  const split = () => {
    const change = splitShot(now(), shot, frame!, () => crypto.randomUUID());
    edit(projectId, change);
    const second = change.edits[1];
    if (second) dispatch(moved({ shotId: second.id, frame: frame! }));
  };
  const acts: Record<string, () => void> = {
    isolate: openIn('isolate'),
    recolour: openIn('recolour'),
    shots: openIn('shots'),
    reference: () => edit(projectId, setReferenceShot(now(), shot)),
    earlier: () => edit(projectId, moveShotTo(now(), shot, at - 1)),
    later: () => edit(projectId, moveShotTo(now(), shot, at + 1)),
    remove: () => edit(projectId, removeShot(shot)),
    split,
    replace: () => void dispatch(dialogOpened({ kind: 'replace', shotId: shot.id })),
    cuts: () => void dispatch(dialogOpened({ kind: 'cuts', shotId: shot.id })),
    begin: () => edit(projectId, trimShot(now(), shot, 'from', frame!)),
    end: () => edit(projectId, trimShot(now(), shot, 'to', frame!)),
    all: () => edit(projectId, untrimShot(shot)),
    join: () => edit(projectId, joinShots(now(), shot, next!)),
  };
  return {
    items: [
      { key: 'isolate', label: piece ? `Isolate ${piece.name} here` : 'Open in Isolate' },
      { key: 'recolour', label: piece ? `Recolour ${piece.name} here` : 'Open in Recolour' },
      { key: 'shots', label: 'Its footage and balance' },
      { type: 'divider' },
      {
        key: 'split',
        label: isInside ? `Split it at frame ${frame}` : 'Split it at the frame in hand',
        disabled: !isInside || frame <= span.from,
      },
      { key: 'cuts', label: 'Find its cuts …' },
      {
        key: 'begin',
        label: isInside ? `Let it begin at frame ${frame}` : 'Let it begin at the frame in hand',
        disabled: !isInside || frame <= span.from,
      },
      {
        key: 'end',
        label: isInside ? `Let it end at frame ${frame}` : 'Let it end at the frame in hand',
        disabled: !isInside || frame >= span.to,
      },
      { key: 'all', label: 'Show all frames of its footage', disabled: shot.span === null },
      { key: 'join', label: next ? `Join ${next.name} to it` : 'Join the next to it', disabled: !next },
      { type: 'divider' },
      { key: 'replace', label: 'Replace its footage …' },
      { key: 'reference', label: 'Make it the reference shot', disabled: shot.id === referenceShotId },
      { key: 'earlier', label: 'Move it one earlier', disabled: at === 0 },
      { key: 'later', label: 'Move it one later', disabled: at === document.shots.length - 1 },
      { key: 'remove', label: 'Remove it with its mattes' },
    ],
    onClick: ({ key }) => acts[key]!(),
  };
}
