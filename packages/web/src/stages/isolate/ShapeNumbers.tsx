import { Button, Segmented } from 'antd';
import type { ShapeLayer } from '@mellow/contract';
import { NumberField } from '../../ui/NumberField.tsx';

interface Props {
  layer: ShapeLayer;
  onDrag: (layer: ShapeLayer) => void;
  onSave: (label: string, layer: ShapeLayer) => void;
}
/**
 * The numbers of a shape: feather for all, place and size for a rectangle or an ellipse. Pixels of the full picture.
 */
export function ShapeNumbers({ layer, onDrag, onSave }: Props) {
  const { feather, geometry } = layer;
  const featherField = (label: string, key: 'innerPx' | 'outerPx') => {
    const next = (v: number): ShapeLayer => ({ ...layer, feather: { ...feather, [key]: v } });
    return (
      <NumberField
        animates={`feather.${key}`}
        label={label}
        value={feather[key]}
        unit="px"
        min={0}
        max={2000}
        step={0.5}
        digits={1}
        neutral={1}
        onDrag={(v) => onDrag(next(v))}
        onCommit={(v) => onSave(`${label} of ${layer.name}`, next(v))}
      />
    );
  };
  const boxField = (label: string, key: 'cx' | 'cy' | 'width' | 'height' | 'turnDeg', neutral: number) => {
    if (geometry.form === 'spline' || geometry.form === 'gradient') return null;
    const next = (v: number): ShapeLayer => ({ ...layer, geometry: { ...geometry, [key]: v } });
    const least = key === 'width' || key === 'height' ? 0 : -100_000;
    return (
      <NumberField
        label={label}
        value={geometry[key]}
        unit={key === 'turnDeg' ? '°' : 'px'}
        min={least}
        max={100_000}
        step={1}
        digits={1}
        neutral={neutral}
        onDrag={(v) => onDrag(next(v))}
        onCommit={(v) => onSave(`${label} of ${layer.name}`, next(v))}
      />
    );
  };
  return (
    <section>
      <h2 style={{ marginBottom: 8 }}>{geometry.form === 'gradient' ? 'Gradient' : 'Feather'}</h2>
      <div className="numbers">
        {geometry.form !== 'gradient' && featherField('Inner', 'innerPx')}
        {geometry.form !== 'gradient' && featherField('Outer', 'outerPx')}
        <span className="quiet">Fall-off</span>
        <Segmented
          size="small"
          options={['smooth', 'linear'] as ('smooth' | 'linear')[]}
          value={feather.falloff}
          onChange={(falloff) => onSave(`Fall-off of ${layer.name}`, { ...layer, feather: { ...feather, falloff } })}
        />
      </div>
      {geometry.form === 'spline' && geometry.points.some((p) => (p.feather ?? 1) !== 1) && (
        <Button
          size="small"
          style={{ marginTop: 6 }}
          onClick={() =>
            onSave(`Even feather of ${layer.name}`, {
              ...layer,
              geometry: { ...geometry, points: geometry.points.map(({ feather: _f, ...p }) => p) },
            })
          }
        >
          Make the feather even
        </Button>
      )}
      {(geometry.form === 'rectangle' || geometry.form === 'ellipse') && (
        <>
          <h2 style={{ margin: '12px 0 8px' }}>Place and size</h2>
          <div className="numbers">
            {boxField('Centre x', 'cx', 0)}
            {boxField('Centre y', 'cy', 0)}
            {boxField('Width', 'width', 100)}
            {boxField('Height', 'height', 100)}
            {boxField('Turn', 'turnDeg', 0)}
          </div>
        </>
      )}
    </section>
  );
}
