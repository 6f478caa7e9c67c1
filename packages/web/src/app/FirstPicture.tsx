import { useEffect, useRef } from 'react';
import type { ProjectDocument } from '@mellow/contract';
import { frameClient } from '../engine/frameClient.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { useInHand } from '../inhand/useInHand.ts';
import { drawPicture } from '../ui/drawPicture.ts';
import { useShowTask } from '../viewer/useShowTask.ts';

/** How long everything else waits for a picture that does not come, ms: a slow machine's does come in five seconds. */
const PATIENCE_MS = 15_000;

interface Props {
  document: ProjectDocument;
  /** Called when the picture is drawn, and when none is to be had. */
  onSeen: () => void;
}
/**
 * The picture in hand before there is anything round it: all that is loaded on the way to it is what computes it.
 * The places of head, ribbon, panel and bars are kept free, so that it does not move when they come.
 */
export function FirstPicture({ document, onSeen }: Props) {
  const inHand = useInHand(document);
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useFrame(inHand);
  const { shot } = inHand;
  const taskAt = useShowTask(inHand);
  const task = taskAt(frame);
  useEffect(() => {
    if (!task) return onSeen();
    frameClient().show(task, (answer) => {
      if (!(answer instanceof Error) && canvas.current) {
        drawPicture(canvas.current, answer.picture);
        canvas.current.dataset.picture = 'shown';
        performance.mark('mellow:first-picture');
      }
      onSeen();
    });
  }, [task, onSeen]);
  useEffect(() => {
    const patience = setTimeout(onSeen, PATIENCE_MS);
    return () => clearTimeout(patience);
  }, [onSeen]);
  return (
    <div className="first-picture">
      <header className="topbar" />
      <div className="ribbon" />
      <main className="work">
        <div className="panel" />
        <div className="viewport">
          <canvas ref={canvas} role="img" aria-label={shot ? `${shot.name}, opening` : 'Opening'} />
        </div>
      </main>
    </div>
  );
}
