import { Button, Input, Segmented, Slider, Switch, Tooltip } from 'antd';
import { ArrowDown, ArrowUp, Contrast, Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { Layer } from '@mellow/contract';
import type { InHand } from '../../app/useProject.ts';
import { frameClient, frameUrl } from '../../engine/frameClient.ts';

interface Props {
  layer: Layer;
  current: boolean;
  first: boolean;
  last: boolean;
  inHand: InHand;
  frame: number;
  onSelect: () => void;
  onDrag: (layer: Layer) => void;
  onSave: (label: string, layer: Layer) => void;
  onRemove: () => void;
  onMove: (by: -1 | 1) => void;
}

/** A layer of the stack: what it is, how it joins, its own matte. */
export function LayerCard({ layer, current, first, last, inHand, frame, onSelect, onDrag, onSave, onRemove, onMove }: Props) {
  return (
    <section className="card" aria-current={current} aria-label={layer.name} onClick={onSelect}>
      <div className="row">
        <OwnMatte layer={layer} inHand={inHand} frame={frame} />
        <div className="grow">
          <Input aria-label="Layer name" key={layer.name} size="small" variant="borderless" style={{ fontWeight: 600, padding: 0 }} defaultValue={layer.name} maxLength={120} onBlur={(e) => { const name = e.target.value.trim(); if (name && name !== layer.name) onSave(`Rename ${layer.name}`, { ...layer, name }); }} />
          <span className="quiet">{layer.kind === 'shape' ? layer.geometry.form : layer.key ? `range key, ${layer.picks.length} ${layer.picks.length === 1 ? 'pick' : 'picks'}` : 'range key: pick a colour in the picture'}</span>
        </div>
        <Switch aria-label={`${layer.name} on`} size="small" checked={layer.on} onChange={(on) => onSave(`Turn ${layer.name} ${on ? 'on' : 'off'}`, { ...layer, on })} />
      </div>
      <div className="row">
        <Segmented aria-label={`How ${layer.name} joins`} size="small" options={['add', 'within', 'without'] as Layer['mode'][]} value={layer.mode} onChange={(mode) => onSave(`${layer.name}: ${mode}`, { ...layer, mode })} />
        <Tooltip title="Invert"><Button size="small" aria-label={`Invert ${layer.name}`} aria-pressed={layer.invert} type={layer.invert ? 'primary' : 'text'} onClick={() => onSave(`Invert ${layer.name}`, { ...layer, invert: !layer.invert })}><Contrast size={14} /></Button></Tooltip>
        <span style={{ flex: 1 }} />
        <Button size="small" type="text" aria-label={`Move ${layer.name} up`} disabled={first} onClick={() => onMove(-1)}><ArrowUp size={14} /></Button>
        <Button size="small" type="text" aria-label={`Move ${layer.name} down`} disabled={last} onClick={() => onMove(1)}><ArrowDown size={14} /></Button>
        <Button size="small" type="text" aria-label={`Remove ${layer.name}`} onClick={(e) => { e.stopPropagation(); onRemove(); }}><Trash2 size={14} /></Button>
      </div>
      {current && (
        <div className="row">
          <span className="quiet">Strength</span>
          <Slider className="grow" ariaLabelForHandle={`Strength of ${layer.name}`} min={0} max={100} value={Math.round(layer.strength * 100)} onChange={(v) => onDrag({ ...layer, strength: v / 100 })} onChangeComplete={(v) => onSave(`Strength of ${layer.name}`, { ...layer, strength: v / 100 })} />
          <span className="mono">{Math.round(layer.strength * 100)} %</span>
        </div>
      )}
    </section>
  );
}

const WIDTH = 80;
/** A live thumbnail of the layer's own matte on the frame in hand. */
function OwnMatte({ layer, inHand: { document, shot, media }, frame }: { layer: Layer; inHand: InHand; frame: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const ready = media && document.proxies[media.id]?.state === 'done';
  const height = media ? Math.round((WIDTH * media.height) / media.width) : 45;
  useEffect(() => {
    if (!shot || !media || !ready) return;
    let wanted = true;
    void frameClient().askLead({ kind: 'layer', frame: { url: frameUrl(media.id, Math.min(frame, media.frames - 1)), encoding: shot.encoding, fullWidth: media.width }, layer, width: WIDTH }).then(
      ({ rgba, width, height: h }) => wanted && canvas.current?.getContext('2d')!.putImageData(new ImageData(rgba, width, h), 0, 0),
      () => undefined,
    );
    return () => void (wanted = false);
  }, [layer, shot, media, frame, ready]);
  return <canvas ref={canvas} width={WIDTH} height={height} style={{ borderRadius: 3, background: '#000' }} role="img" aria-label={`Matte of ${layer.name}`} />;
}
