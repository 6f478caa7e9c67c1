import { Button, Checkbox, Dropdown, Input, Segmented, Select, Switch } from 'antd';
import { useState, type ReactNode } from 'react';
import { typeOf, variablesOf } from '../app/theme.ts';
import { useAppSelector } from '../app/store.ts';
import { RoomMenu } from '../head/RoomMenu.tsx';
import { KeyTip } from '../keys/KeyTip.tsx';
import { DeltaE } from '../ui/DeltaE.tsx';
import { Fold } from '../ui/Fold.tsx';
import { Ladder } from '../ui/Ladder.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { NumberRows, type NumberRow } from '../ui/NumberRows.tsx';
import { SplitButton } from '../ui/SplitButton.tsx';
import { SwatchPair } from '../ui/SwatchPair.tsx';
import { TintField } from '../ui/TintField.tsx';

function Part({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <section className="kit-part">
      <h2>{title}</h2>
      <p className="quiet">{text}</p>
      <div>{children}</div>
    </section>
  );
}
const ROWS: NumberRow<'edge' | 'soften'>[] = [
  { key: 'edge', label: 'Edge', unit: 'px', min: -500, max: 500, step: 0.1, digits: 1, useful: [-10, 10] },
  { key: 'soften', label: 'Soften', unit: 'px', min: 0, max: 500, step: 0.1, digits: 1, useful: [0, 10] },
];

/** Every shared part of the interface with what it is for; in development only. */
export default function Kit() {
  const { surround, textStep } = useAppSelector((s) => s.room);
  const [hue, setHue] = useState(35);
  const [numbers, setNumbers] = useState({ edge: -1.5, soften: 2 });
  const [tint, setTint] = useState({ a: 0.03, b: 0.02 });
  const [density, setDensity] = useState(0.12);
  const greys = Object.entries(variablesOf(surround, textStep)).filter(([, value]) => value.startsWith('#'));
  const put = (key: 'edge' | 'soften', value: number) => setNumbers({ ...numbers, [key]: value });
  return (
    <main className="page kit">
      <header className="row">
        <h1>Kit</h1>
        <RoomMenu />
      </header>
      <Part title="Greys" text="Every surface, line and letter is neutral; depth is told by lightness alone.">
        <ul className="kit-greys">
          {greys.map(([name, value]) => (
            <li key={name}>
              <i style={{ background: value }} />
              {name.slice(2)} <span className="mono">{value}</span>
            </li>
          ))}
        </ul>
      </Part>
      <Part
        title="Type"
        text="Text, what is said beside it, headings, figures; a step larger on wide screens and by choice."
      >
        {Object.entries(typeOf(textStep)).map(([name, px]) => (
          <div key={name} style={{ fontSize: px }} className={name === 'mono' ? 'mono' : ''}>
            {name} {px} px: the picture follows the hand, 0123456789
          </div>
        ))}
      </Part>
      <Part
        title="Numbers"
        text="Dragged on the label or the field, nudged, typed (2+3, *1.1, =); a double click on the label resets."
      >
        <div className="numbers" style={{ width: 300 }}>
          <NumberField
            label="Hue"
            value={hue}
            unit="°"
            min={-180}
            max={180}
            step={0.5}
            digits={1}
            neutral={0}
            onDrag={setHue}
            onCommit={setHue}
          />
          <NumberRows rows={ROWS} values={numbers} neutral={{ edge: 0, soften: 0 }} onDrag={put} onCommit={put} />
        </div>
      </Part>
      <Part title="Field and ladder" text="One polar field and one ladder, for recolour and for balance.">
        <div className="row">
          <TintField {...tint} reach={0.12} size={120} label="Tint" onDrag={setTint} onSave={setTint} />
          <Ladder density={density} reach={0.6} height={120} label="Density" onDrag={setDensity} onSave={setDensity} />
          <Ladder
            density={density}
            reach={1.2}
            height={250}
            label="Long ladder"
            onDrag={setDensity}
            onSave={setDensity}
          />
        </div>
      </Part>
      <Part title="Pieces" text="A chip: swatch pair, short name, worst state. A dashed square is not known yet.">
        <div className="row">
          <span className="chip chosen">
            <span className="chip-face">
              <SwatchPair from="#468c8c" to="#d99a2b" /> Lark <span className="mono">✓</span>
            </span>
          </span>
          <span className="chip">
            <span className="chip-face">
              <SwatchPair from={null} to="#8e3b46" /> Scarf <span className="mono">–</span>
            </span>
          </span>
        </div>
      </Part>
      <Part title="States" text="Said by a mark and a number, never by a colour.">
        <div className="row">
          <DeltaE value={0.4} tolerance={1} trust={{ coverage: 0.98, clipped: 0.01 }} />
          <DeltaE value={1.6} tolerance={1} trust={{ coverage: 0.9, clipped: 0 }} room="figure" />
          <DeltaE value={7.2} tolerance={1} trust={{ coverage: 0.2, clipped: 0.4 }} room="figure" />
          <DeltaE value={7.2} tolerance={1} trust={undefined} room="barest" />
          <span className="pill">auto-key</span>
        </div>
      </Part>
      <Part title="Controls" text="What is at work is a light pill with dark text; what can be done is an outline.">
        <div className="row">
          <Button type="primary">Match</Button>
          <SplitButton
            size="small"
            type="primary"
            onClick={() => setHue(35)}
            more="Reset, otherwise"
            ways={[{ key: 'all', label: 'Reset the numbers too', onClick: () => setNumbers({ edge: 0, soften: 0 }) }]}
          >
            Reset the hue
          </SplitButton>
          <KeyTip id="wipe" title="Wipe">
            <Button>With its key</Button>
          </KeyTip>
          <Button type="text">Plain</Button>
          <Button disabled>Not now</Button>
          <Segmented aria-label="Segmented" options={['add', 'within', 'without']} />
          <Select aria-label="Select" style={{ width: 120 }} value="one" options={[{ value: 'one', label: 'One' }]} />
          <Switch aria-label="Switch" defaultChecked />
          <Checkbox defaultChecked>hue</Checkbox>
          <Input aria-label="Text" placeholder="a name" style={{ width: 140 }} />
          <Dropdown trigger={['contextMenu']} menu={{ items: [{ key: 'a', label: 'Rename …' }] }}>
            <Button>Right-click me</Button>
          </Dropdown>
        </div>
      </Part>
      <Part
        title="Folds, places, nothing yet"
        text="Rare things fold; places are kept; an empty place says what to do."
      >
        <Fold title="Exact" says="ASC CDL">
          <span className="quiet">What is needed now and then.</span>
        </Fold>
        <div className="row">
          <div className="skeleton" style={{ width: 160 }} />
          <div className="empty">Nothing of the scarf is selected yet. Pick its colour, or draw round it first.</div>
        </div>
      </Part>
    </main>
  );
}
