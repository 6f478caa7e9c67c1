import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ColourwayId, NewNote, PieceId, ProjectId, Role, ShotId } from '@mellow/contract';

/** A dialog that may be opened from several places. */
export type Dialog =
  | { kind: 'commands' }
  | { kind: 'keys' }
  | { kind: 'guide' }
  | { kind: 'firstSteps' }
  | { kind: 'newPiece'; partOf: PieceId | null }
  | { kind: 'renamePiece'; id: PieceId }
  | { kind: 'newColourway' }
  | { kind: 'renameColourway'; id: ColourwayId }
  | { kind: 'people' }
  | { kind: 'space' }
  | { kind: 'members'; projectId: ProjectId; name: string; role: Role }
  | { kind: 'cuts'; shotId: ShotId }
  | { kind: 'replace'; shotId: ShotId }
  | { kind: 'note'; on: Pick<NewNote, 'shotId' | 'colourwayId' | 'frame' | 'spot'> };

/** Does it take all that is typed? What is only read, or points at things, lies beside the work. */
export const takesKeys = (dialog: Dialog | null): boolean =>
  dialog !== null && dialog.kind !== 'guide' && dialog.kind !== 'firstSteps';

export const dialogSlice = createSlice({
  name: 'dialog',
  initialState: null as Dialog | null,
  reducers: {
    dialogOpened: (_state, { payload }: PayloadAction<Dialog>): Dialog | null => payload,
    dialogClosed: (): Dialog | null => null,
  },
});
export const { dialogOpened, dialogClosed } = dialogSlice.actions;
