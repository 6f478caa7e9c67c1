import type { Balance, ProjectDocument, Shot } from '@mellow/contract';
import { isNeutralBalance, NEUTRAL_BALANCE } from '@mellow/core';
import type { Change } from '../editing/change.ts';

const putShots = (label: string, ...shots: Shot[]): Change => ({
  label,
  edits: shots.map((value) => ({ kind: 'shot', id: value.id, value })),
});

/** Renames a shot; no change where the name is empty or the same. */
export function renameShot(shot: Shot, typed: string): Change {
  const name = typed.trim();
  const isNew = name !== '' && name !== shot.name;
  return {
    label: `Rename ${shot.name}`,
    edits: isNew ? [{ kind: 'shot', id: shot.id, value: { ...shot, name } }] : [],
  };
}
export const setEncoding = (shot: Shot, encoding: Shot['encoding']): Change =>
  putShots(`Encoding of ${shot.name}`, { ...shot, encoding });
export const takeOutShot = ({ id, name }: Shot): Change => ({
  label: `Take out ${name}`,
  edits: [{ kind: 'shot', id, value: null }],
});

/** Changes places with the shot above or below; no change at the ends of the reel. */
export function moveShot(document: ProjectDocument, shot: Shot, way: 'up' | 'down'): Change {
  const at = document.shots.findIndex((s) => s.value.id === shot.id);
  const other = document.shots[way === 'up' ? at - 1 : at + 1]?.value;
  const label = `Move ${shot.name} ${way}`;
  if (!other) return { label, edits: [] };
  return putShots(label, { ...shot, position: other.position }, { ...other, position: shot.position });
}

export const balanceWith = (shot: Shot, changed: Partial<Balance>): Balance => ({
  ...(shot.balance ?? NEUTRAL_BALANCE),
  ...changed,
});
/** Changes a shot's balance; one that does nothing is none. */
export function changeBalance(shot: Shot, label: string, changed: Partial<Balance>): Change {
  const balance = balanceWith(shot, changed);
  return putShots(`${label} of ${shot.name}`, { ...shot, balance: isNeutralBalance(balance) ? null : balance });
}
