import { Button } from 'antd';
import { CircleHelp, Search } from 'lucide-react';
import { useAppDispatch } from '../app/store.ts';
import { KeyTip } from '../keys/KeyTip.tsx';
import { dialogOpened } from '../view/dialogSlice.ts';

/** Finds commands; opens what there is to read of the stage. */
export function HelpMenu() {
  const dispatch = useAppDispatch();
  return (
    <>
      <KeyTip id="palette" title="Find a command">
        <Button
          size="small"
          type="text"
          aria-label="Find a command"
          onClick={() => dispatch(dialogOpened({ kind: 'commands' }))}
        >
          <Search size={15} />
        </Button>
      </KeyTip>
      <KeyTip id="guide" title="Read about this stage">
        <Button
          size="small"
          type="text"
          aria-label="Read about this stage"
          onClick={() => dispatch(dialogOpened({ kind: 'guide' }))}
        >
          <CircleHelp size={16} />
        </Button>
      </KeyTip>
    </>
  );
}
