import { useMemo, useState } from 'react';
import type { Balance, Shot } from '@mellow/contract';
import { balanceFromPairs, neutralised, NEUTRAL_BALANCE } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { changeBalance } from '../../commands/shots.ts';
import { edit, shotNow, tellProblem } from '../../editing/editing.ts';
import { frameClient } from '../../engine/frameClient.ts';
import type { FrameRef } from '../../engine/frameProtocol.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';
import { pickingFor } from '../../view/handSlice.ts';
import { workByPicking, type ViewerWork } from '../../viewer/viewerWork.ts';

/** Read before the balance: what is solved for is the balance itself. */
const unbalanced = ({ balance: _balance, ...frame }: FrameRef): FrameRef => frame;

/** A balance from the picture: of what should be neutral, or of patches that look otherwise in the reference shot. */
export function useBalancing(inHand: InHand, shot: Shot) {
  const { document, media } = inHand;
  const dispatch = useAppDispatch();
  const frame = useFrame(inHand);
  const isPicking = useAppSelector((s) => s.hand.pickFor === 'balance');
  const [said, setSaid] = useState<string>();
  const projectId = document.project.value.id;
  const reference = document.shots.find((s) => s.value.id === document.project.value.referenceShotId)?.value;
  const put = (label: string, next: Balance) => edit(projectId, changeBalance(shotNow(shot), label, next));
  const mediaOf = (of: Shot) => document.media.find((m) => m.id === of.mediaId)!;

  const matchPatches = async () => {
    const shared = reference ? shot.patches.filter((p) => reference.patches.some((q) => q.name === p.name)) : [];
    if (!reference || shared.length === 0)
      return setSaid('No patch has been picked in both shots under the same letter: pick them at Recolour, Light.');
    const asked = shared.flatMap((own) => {
      const other = reference.patches.find((q) => q.name === own.name)!;
      return [
        { ...own, frame: unbalanced(frameRefOf(document, shot, mediaOf(shot), own.frame)) },
        { ...other, frame: frameRefOf(document, reference, mediaOf(reference), other.frame) },
      ];
    });
    const { means } = await frameClient().ask({ kind: 'patch colours', patches: asked });
    const pairs = shared.map((_, i) => ({ here: means[2 * i]!, wanted: means[2 * i + 1]! }));
    put(
      `Match ${shot.name} to ${reference.name} by patches`,
      balanceFromPairs(shot.balance ?? NEUTRAL_BALANCE, shot.encoding, pairs),
    );
    setSaid(undefined);
  };

  const work = useMemo((): ViewerWork | undefined => {
    if (!isPicking || !media) return undefined;
    const neutral = async (rect: { x0: number; y0: number; x1: number; y1: number }) => {
      const ref = unbalanced(frameRefOf(document, shot, media, frame));
      const { means } = await frameClient().ask({ kind: 'patch colours', patches: [{ frame: ref, ...rect }] });
      const now = shotNow(shot);
      const next = neutralised(now.balance ?? NEUTRAL_BALANCE, now.encoding, means[0]!);
      edit(projectId, changeBalance(now, 'Neutral', next));
    };
    return workByPicking((_sign, rect) => {
      dispatch(pickingFor('key'));
      void neutral(rect).catch(tellProblem);
    });
  }, [isPicking, document, shot, media, frame, projectId, dispatch]);
  return {
    work,
    isPicking,
    pickNeutral: () => dispatch(pickingFor(isPicking ? 'key' : 'balance')),
    matchPatches: () => void matchPatches().catch(tellProblem),
    said,
    reference: reference?.id === shot.id ? undefined : reference,
  };
}
