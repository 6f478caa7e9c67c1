import { Button, Input, InputNumber, Segmented, Tooltip } from 'antd';
import { Pipette } from 'lucide-react';
import { useState } from 'react';
import type { Illuminant, Requirement } from '@mellow/contract';
import { ciede2000, hexFromLab, labFromHex, lchFromLab, d65LabFrom, type Lab } from '@mellow/core';
import { stateRequirement, type RequirementNumbers } from '../../commands/requirement.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { requiredHex } from '../../ui/colour.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useMeasurementsQuery } from '../../data/api.ts';
import { pickingFor } from '../../view/handSlice.ts';
import { filmedColours } from './filmedColours.ts';
import { AsFilmed } from './AsFilmed.tsx';
import { FromFile } from './FromFile.tsx';

const NOTHING = {
  lab: { L: 60, a: 0, b: 0 },
  illuminant: 'D65' as const,
  tolerance: null,
  note: '',
  asInShotId: null,
  of: 'mean' as const,
};
const round = (lab: Lab): Lab => ({
  L: Math.round(lab.L * 100) / 100,
  a: Math.round(lab.a * 100) / 100,
  b: Math.round(lab.b * 100) / 100,
});

const OF: Record<Requirement['of'], string> = { mean: 'the whole piece', body: 'its body, without sheen' };

/** The colour the piece must have in this colourway: named, as hex or Lab, for a light, with a tolerance. */
export function RequirementCard({ inHand }: { inHand: InHand }) {
  const { document, piece, requirement } = inHand;
  const place = usePlace(inHand);
  const [draft, setDraft] = useState<RequirementNumbers | undefined>();
  const begin = () => setDraft(requirement ?? { name: '', ...NOTHING });
  const save = () => {
    if (draft) edit(document.project.value.id, stateRequirement(document, place, draft));
    setDraft(undefined);
  };
  if (!draft) {
    const lch = requirement && lchFromLab(requirement.lab);
    return (
      <section className="requirement" aria-label="Requirement">
        <div className="row">
          {requirement && lch ? (
            <>
              <i style={{ background: requiredHex(requirement)! }} />
              <div
                className="grow"
                title={
                  `Required of ${OF[requirement.of]}, stated for ${requirement.illuminant}, ` +
                  `tolerance ΔE00 ${requirement.tolerance ?? document.project.value.tolerance}`
                }
              >
                <strong>{requirement.name}</strong> <span className="mono">{requiredHex(requirement)}</span>
                <div className="mono quiet shorten">
                  L {lch.L.toFixed(1)} C {lch.C.toFixed(1)} h {lch.hDeg.toFixed(1)}°
                  {requirement.of === 'body' ? ' · body' : ''}
                </div>
              </div>
            </>
          ) : (
            <span className="quiet grow">No colour is required of the {piece?.name} yet.</span>
          )}
          <PickButton />
          <Button size="small" type={requirement ? 'default' : 'primary'} onClick={begin}>
            {requirement ? 'Change' : 'Require a colour'}
          </Button>
        </div>
        {requirement?.note && <div className="quiet">{requirement.note}</div>}
        {requirement?.asInShotId && <Linked inHand={inHand} requirement={requirement} />}
      </section>
    );
  }
  const shown = d65LabFrom(draft.lab, draft.illuminant);
  return (
    <section className="card">
      <h2>Requirement</h2>
      <Input
        autoFocus
        aria-label="Requirement name"
        placeholder="Name, for example Marigold"
        maxLength={120}
        value={draft.name}
        onChange={(e) => setDraft({ ...draft, name: e.target.value })}
      />
      <FromFile
        onTake={({ name, lab, illuminant }) =>
          setDraft({ ...draft, name, lab: round(lab), illuminant, asInShotId: null })
        }
      />
      <AsFilmed
        inHand={inHand}
        onTake={({ shot, lab }) =>
          setDraft({
            ...draft,
            name: `As in ${shot.name}`,
            lab: round(lab),
            illuminant: 'D65',
            asInShotId: shot.id,
            of: 'mean',
          })
        }
      />
      <div className="row">
        <input
          type="color"
          aria-label="Colour"
          value={hexFromLab(shown)}
          style={{ width: 44, height: 28, border: 0, padding: 0, background: 'none' }}
          onChange={(e) => setDraft({ ...draft, illuminant: 'D65', lab: round(labFromHex(e.target.value)!) })}
        />
        <Input
          aria-label="Hex"
          className="mono"
          key={hexFromLab(shown)}
          defaultValue={hexFromLab(shown)}
          onBlur={(e) => {
            const lab = labFromHex(e.target.value);
            if (lab && e.target.value !== hexFromLab(shown)) setDraft({ ...draft, illuminant: 'D65', lab: round(lab) });
          }}
          onPressEnter={(e) => e.currentTarget.blur()}
        />
      </div>
      <div className="row">
        {(['L', 'a', 'b'] as const).map((c) => (
          <InputNumber
            key={c}
            aria-label={`${c}*`}
            prefix={c}
            size="small"
            controls={false}
            min={c === 'L' ? 0 : -200}
            max={c === 'L' ? 100 : 200}
            precision={2}
            value={draft.lab[c]}
            onChange={(v) => v !== null && setDraft({ ...draft, lab: { ...draft.lab, [c]: v } })}
          />
        ))}
      </div>
      <div className="row">
        <span className="quiet">of</span>
        <Tooltip title="The body is told from its sheen where Repaint can; elsewhere the mean is compared">
          <Segmented
            size="small"
            aria-label="Required of"
            options={Object.entries(OF).map(([value, label]) => ({ value: value as Requirement['of'], label }))}
            value={draft.of}
            onChange={(of) => setDraft({ ...draft, of })}
          />
        </Tooltip>
      </div>
      <div className="row">
        <span className="quiet">stated for</span>
        <Segmented
          size="small"
          options={['D65', 'D50'] as Illuminant[]}
          value={draft.illuminant}
          onChange={(illuminant) => setDraft({ ...draft, illuminant })}
        />
        <span className="quiet">tolerance</span>
        <InputNumber
          aria-label="Tolerance"
          size="small"
          controls={false}
          min={0.1}
          max={20}
          placeholder={String(document.project.value.tolerance)}
          value={draft.tolerance}
          onChange={(tolerance) => setDraft({ ...draft, tolerance })}
        />
      </div>
      <Input.TextArea
        aria-label="Note"
        placeholder="Note, for example who approved it"
        autoSize={{ minRows: 1, maxRows: 4 }}
        maxLength={2000}
        value={draft.note}
        onChange={(e) => setDraft({ ...draft, note: e.target.value })}
      />
      <div className="row">
        <Button type="primary" size="small" onClick={save}>
          Save requirement
        </Button>
        <Button size="small" onClick={() => setDraft(undefined)}>
          Cancel
        </Button>
      </div>
    </section>
  );
}

/** The required colour is the next that is picked from the picture. */
function PickButton() {
  const dispatch = useAppDispatch();
  const isPicking = useAppSelector((s) => s.hand.pickFor === 'requirement');
  return (
    <Tooltip title="Pick it from the picture: any frame of any shot, or an imported still">
      <Button
        size="small"
        type={isPicking ? 'primary' : 'default'}
        aria-label="Pick the required colour from the picture"
        aria-pressed={isPicking}
        onClick={() => dispatch(pickingFor(isPicking ? 'key' : 'requirement'))}
      >
        <Pipette size={14} />
      </Button>
    </Tooltip>
  );
}

/** Less than this is no change to speak of, ΔE00. */
const SAME = 0.1;
/** A requirement that is the piece's own colour as filmed elsewhere: is it still what is filmed there? */
function Linked({ inHand, requirement }: { inHand: InHand; requirement: Requirement }) {
  const { document, piece } = inHand;
  const place = usePlace(inHand);
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const filmed = filmedColours(document, measurements, piece?.id).find((f) => f.shot.id === requirement.asInShotId);
  if (!filmed) return <div className="quiet">The shot it was taken from does not show the piece any more.</div>;
  const moved = ciede2000(filmed.lab, requirement.lab);
  if (moved < SAME) return <div className="quiet">Linked to the piece as filmed in {filmed.shot.name}.</div>;
  const take = () =>
    edit(document.project.value.id, stateRequirement(document, place, { ...requirement, lab: round(filmed.lab) }));
  return (
    <div className="row">
      <span className="grow">
        As filmed in {filmed.shot.name} it is measured ΔE {moved.toFixed(2)} from this now.
      </span>
      <Button size="small" onClick={take}>
        Take it again
      </Button>
    </div>
  );
}
