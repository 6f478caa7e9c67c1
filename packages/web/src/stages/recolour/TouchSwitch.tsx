import { Segmented, Tooltip } from 'antd';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { keyframingChanged } from '../../view/keyframingSlice.ts';

const SAYS = {
  all: 'Edits change the recipe: all shots of the piece.',
  here: 'Edits make keyframes on this frame: this shot, from here on.',
};

/** What an edit of the recipe touches: every shot, or this one from the frame in hand on. */
export function TouchSwitch({ isAnimatedHere }: { isAnimatedHere: boolean }) {
  const dispatch = useAppDispatch();
  const auto = useAppSelector((s) => s.keyframing.mode.auto);
  const isHere = auto.recolour ?? false;
  const turn = (recolour: boolean) => dispatch(keyframingChanged({ auto: { ...auto, recolour } }));
  useCommands({ autoKey: { run: () => turn(!isHere), isOn: isHere } });
  const more = isAnimatedHere ? ' Numbers that have keyframes in this shot change on this frame in any case.' : '';
  return (
    <Tooltip title={SAYS[isHere ? 'here' : 'all'] + more}>
      <Segmented
        size="small"
        aria-label="Edits touch"
        options={[
          { value: 'all', label: 'all shots' },
          { value: 'here', label: 'from here on' },
        ]}
        value={isHere ? 'here' : 'all'}
        onChange={(to) => turn(to === 'here')}
      />
    </Tooltip>
  );
}
