import { Segmented, Select } from 'antd';
import { useEffect, useRef } from 'react';
import { inShotLight, linear709FromLab, SCOPE_KINDS, SCOPE_PARTS, type ScopeKind } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { requiredLab } from '../../ui/colour.ts';
import { lookChanged } from '../../view/lookSlice.ts';
import { drawScope, marked } from './drawScope.ts';
import { useFeed } from '../../inhand/feed.ts';
import { scopeFeed } from './scopeFeed.ts';

const WORDS: Record<ScopeKind, string> = {
  vectorscope: 'Vectorscope',
  'hue and chroma': 'Hue and chroma',
  waveform: 'Waveform',
  parade: 'RGB parade',
  histogram: 'Histogram',
};

/** A scope of the frame that is shown, following every move of a control. */
export default function ScopePane({ inHand: { shot, requirement } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const look = useAppSelector((s) => s.look.scope);
  const probe = useAppSelector((s) => s.pointed.probe);
  const scope = useFeed(scopeFeed);
  const canvas = useRef<HTMLCanvasElement>(null);
  const encoding = shot?.encoding ?? 'rec709';
  useEffect(() => {
    const required =
      requirement && marked(encoding, linear709FromLab(inShotLight(shot?.light?.matrix, requiredLab(requirement))));
    drawScope(canvas.current!, scope, encoding, { required, probe: probe ?? undefined });
  }, [scope, encoding, requirement, shot, probe]);
  return (
    <aside className="scope" aria-label="Scope">
      <div className="row">
        <Select
          size="small"
          aria-label="Scope"
          className="grow"
          value={look.kind}
          options={SCOPE_KINDS.map((kind) => ({ value: kind, label: WORDS[kind] }))}
          onChange={(kind) => dispatch(lookChanged({ scope: { ...look, kind } }))}
        />
        <Segmented
          size="small"
          aria-label="Scope of"
          options={SCOPE_PARTS.map((part) => ({ value: part, label: part === 'picture' ? 'all' : part }))}
          value={look.part}
          onChange={(part) => dispatch(lookChanged({ scope: { ...look, part } }))}
        />
      </div>
      <canvas
        ref={canvas}
        width={300}
        height={260}
        role="img"
        aria-label={`${WORDS[look.kind]} of the ${look.part === 'picture' ? 'picture' : `${look.part} of the matte`}`}
        data-scope={scope?.kind}
      />
      <div className="quiet">
        {requirement ? 'dashed: required' : ''} {probe ? 'solid: under the pointer' : ''}
      </div>
    </aside>
  );
}
