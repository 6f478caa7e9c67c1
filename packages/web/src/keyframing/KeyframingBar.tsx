import { Segmented, Switch, Tooltip } from 'antd';
import { EASES } from '@mellow/core';
import { useStage } from '../app/stages.ts';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { useCommands } from '../keys/useCommands.ts';
import { keyframingChanged } from '../view/keyframingSlice.ts';

const WHERE_EDITS_GO =
  'Here: an edit goes to this frame’s keyframe. ' + 'Everywhere: the same change goes to all keyframes.';

/** How edits meet keyframes. */
export function KeyframingBar() {
  const dispatch = useAppDispatch();
  const stage = useStage();
  const { auto, everywhere, ease } = useAppSelector((s) => s.keyframing.mode);
  const isAuto = auto[stage] ?? false;
  const turn = (on: boolean) => dispatch(keyframingChanged({ auto: { ...auto, [stage]: on } }));
  useCommands({ autoKey: { run: () => turn(!isAuto), isOn: isAuto } });
  return (
    <div className="card">
      <div className="row">
        <Tooltip title="At this stage any edit makes a keyframe on this frame, of what had none too">
          <span className="row">
            <Switch size="small" aria-label="Auto-key" checked={isAuto} onChange={turn} />
            Auto-key
          </span>
        </Tooltip>
        <span style={{ flex: 1 }} />
        <Tooltip title={WHERE_EDITS_GO}>
          <Segmented
            size="small"
            aria-label="Edits go"
            options={['here', 'everywhere']}
            value={everywhere ? 'everywhere' : 'here'}
            onChange={(v) => dispatch(keyframingChanged({ everywhere: v === 'everywhere' }))}
          />
        </Tooltip>
      </div>
      <div className="row">
        <span className="quiet grow">New keyframes</span>
        <Segmented
          size="small"
          aria-label="New keyframes"
          options={[...EASES]}
          value={ease}
          onChange={(e) => dispatch(keyframingChanged({ ease: e }))}
        />
      </div>
    </div>
  );
}
