import { lazy, Suspense, useEffect } from 'react';
import type { InHand } from '../inhand/inHand.ts';
import { useCommands } from '../keys/useCommands.ts';
import { dialogClosed, dialogOpened } from '../view/dialogSlice.ts';
import { surroundChosen, TEXT_STEPS, textStepped } from '../view/roomSlice.ts';
import { importNoticeHost } from './Notices.tsx';
import { useAppDispatch, useAppSelector } from './store.ts';

const importPalette = () => import('../keys/CommandPalette.tsx');
const CommandPalette = lazy(importPalette);
const KeysDialog = lazy(() => import('../keys/KeysDialog.tsx'));
const Guide = lazy(() => import('../guide/Guide.tsx'));
const FirstSteps = lazy(() => import('../guide/FirstSteps.tsx'));
const NoteDialog = lazy(() => import('../viewer/NoteDialog.tsx'));
const CutsDialog = lazy(() => import('../stages/shots/CutsDialog.tsx'));
const ReplaceDialog = lazy(() => import('../stages/shots/ReplaceDialog.tsx'));
const PeopleDialog = lazy(() => import('../people/PeopleDialog.tsx'));
const MembersDialog = lazy(() => import('../people/MembersDialog.tsx'));
const SpaceDialog = lazy(() => import('../stages/projects/SpaceDialog.tsx'));
const NameDialogs = lazy(() => import('../head/NameDialogs.tsx'));

/** How long the list of commands and the notices wait for what is needed sooner, ms. */
const LATER_MS = 5000;

/** The dialogs that several places open, and the commands there are everywhere. */
export function Dialogs({ inHand }: { inHand?: InHand }) {
  const dispatch = useAppDispatch();
  const dialog = useAppSelector((s) => s.dialog);
  const { surround, textStep } = useAppSelector((s) => s.room);
  useCommands({
    palette: { run: () => dispatch(dialogOpened({ kind: 'commands' })) },
    keysHere: { run: () => dispatch(dialogOpened({ kind: 'keys' })) },
    ...(inHand && { firstSteps: { run: () => dispatch(dialogOpened({ kind: 'firstSteps' })) } }),
    guide: { run: () => dispatch(dialogOpened({ kind: 'guide' })) },
    roomDim: { run: () => dispatch(surroundChosen('dim')), isOn: surround === 'dim' },
    roomMid: { run: () => dispatch(surroundChosen('mid')), isOn: surround === 'mid' },
    roomBright: { run: () => dispatch(surroundChosen('bright')), isOn: surround === 'bright' },
    textLarger: { run: () => dispatch(textStepped((textStep + 1) % TEXT_STEPS.length)), isOn: textStep > 0 },
  });
  // there at once when they are asked for; with a project in hand its picture has been seen
  const isOpen = inHand !== undefined;
  useEffect(() => {
    if (!isOpen) return;
    const later = setTimeout(() => void Promise.all([importPalette(), importNoticeHost()]), LATER_MS);
    return () => clearTimeout(later);
  }, [isOpen]);
  if (!dialog) return null;
  const onClose = () => dispatch(dialogClosed());
  return (
    <Suspense fallback={null}>
      {dialog.kind === 'commands' && <CommandPalette onClose={onClose} />}
      {dialog.kind === 'keys' && <KeysDialog onClose={onClose} />}
      {dialog.kind === 'guide' && <Guide onClose={onClose} />}
      {dialog.kind === 'space' && <SpaceDialog onClose={onClose} />}
      {dialog.kind === 'people' && <PeopleDialog onClose={onClose} />}
      {dialog.kind === 'members' && <MembersDialog project={dialog} onClose={onClose} />}
      {inHand && dialog.kind === 'firstSteps' && (
        <FirstSteps projectId={inHand.document.project.value.id} onClose={onClose} />
      )}
      {inHand && dialog.kind === 'note' && <NoteDialog inHand={inHand} on={dialog.on} onClose={onClose} />}
      {inHand && dialog.kind === 'cuts' && <CutsDialog inHand={inHand} shotId={dialog.shotId} onClose={onClose} />}
      {inHand && dialog.kind === 'replace' && (
        <ReplaceDialog inHand={inHand} shotId={dialog.shotId} onClose={onClose} />
      )}
      {inHand && <NameDialogs inHand={inHand} dialog={dialog} onClose={onClose} />}
    </Suspense>
  );
}
