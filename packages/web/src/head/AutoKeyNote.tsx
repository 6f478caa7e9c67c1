import { useStage } from '../app/stages.ts';
import { useAppSelector } from '../app/store.ts';

/** That edits make keyframes by themselves is never out of sight while it is so. */
export function AutoKeyNote() {
  const stage = useStage();
  const isOn = useAppSelector((s) => s.keyframing.mode.auto[stage] ?? false);
  return isOn ? <span className="pill">auto-key</span> : null;
}
