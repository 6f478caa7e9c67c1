import { Tooltip } from 'antd';
import { ArrowRight } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import type { CleanUp } from '@mellow/contract';
import { NO_CLEAN_UP } from '@mellow/core';
import type { FrameScene } from '../../engine/frameProtocol.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useAnswer } from '../../inhand/useAnswer.ts';
import { drawPicture } from '../../ui/drawPicture.ts';

/** The steps of clean-up in the order they are done, and the numbers that each works by. */
const STEPS: readonly { name: string; does: string; numbers: readonly (keyof CleanUp)[] }[] = [
  { name: 'quiet', does: 'evens out what flickers within the matte', numbers: ['quietPx'] },
  {
    name: 'levels',
    does: 'floor and ceiling: what is nearly out is out, nearly in is in',
    numbers: ['floor', 'ceiling'],
  },
  { name: 'despeckle', does: 'takes small islands away and fills small holes', numbers: ['islandsPx', 'holesPx'] },
  { name: 'edge', does: 'moves the outline in or out', numbers: ['edgePx'] },
  { name: 'soften', does: 'blurs the edge, in or outward', numbers: ['softenPx'] },
  { name: 'fit', does: 'sets the edge right by the picture', numbers: ['fitEdge'] },
];
const isAtWork = (value: CleanUp, numbers: readonly (keyof CleanUp)[]): boolean =>
  numbers.some((key) => value[key] !== NO_CLEAN_UP[key]);

/** The whole stack's matte before clean-up and after it, with the steps between in their order. */
export function CleanUpChain({ value, inHand, frame }: { value: CleanUp; inHand: InHand; frame: number }) {
  return (
    <div className="chain" role="group" aria-label="Clean-up, step by step">
      <StackMatte inHand={inHand} frame={frame} without label="The matte before clean-up" />
      <ol>
        {STEPS.map(({ name, does, numbers }) => (
          <li key={name} className={isAtWork(value, numbers) ? 'at-work' : 'quiet'}>
            <Tooltip title={does}>
              <span>{name}</span>
            </Tooltip>
          </li>
        ))}
      </ol>
      <ArrowRight size={14} aria-hidden />
      <StackMatte inHand={inHand} frame={frame} label="The matte after clean-up" />
    </div>
  );
}

const WIDTH = 84;
/** A hand that moves a number is waited for, ms. */
const REST_MS = 150;
const withoutCleanUp = (scene: FrameScene): FrameScene => ({
  ...scene,
  sightings: scene.sightings.map((s, i) => (i === scene.index ? { ...s, cleanUp: undefined } : s)),
});

interface MatteProps {
  inHand: InHand;
  frame: number;
  without?: boolean;
  label: string;
}
function StackMatte({ inHand, frame, without = false, label }: MatteProps) {
  const { document, shot, media, piece, colourwayId, motions } = inHand;
  const canvas = useRef<HTMLCanvasElement>(null);
  const pieceId = piece?.id;
  const task = useMemo(() => {
    if (!shot || !media || document.proxies[media.id]?.state !== 'done') return undefined;
    const looked = { document, shot, media, colourwayId, pieceId, motions };
    const scene = frameSceneAt(looked, Math.min(frame, media.frames - 1), false);
    if (scene.index < 0) return undefined;
    return { kind: 'matte' as const, ...(without ? withoutCleanUp(scene) : scene), width: 2 * WIDTH };
  }, [document, shot, media, pieceId, colourwayId, motions, frame, without]);
  const matte = useAnswer(task, { restMs: REST_MS });
  useEffect(() => {
    if (matte) drawPicture(canvas.current!, matte);
  }, [matte]);
  const aspectRatio = media ? media.width / media.height : 16 / 9;
  return <canvas ref={canvas} role="img" aria-label={label} style={{ width: WIDTH, aspectRatio }} />;
}
