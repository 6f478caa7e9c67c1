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
export const removeShot = ({ id, name }: Shot): Change => ({
  label: `Remove ${name}`,
  edits: [{ kind: 'shot', id, value: null }],
});

/** Puts a shot at another place of the reel, 0 the first; the shots between move up. No change where it is there. */
export function moveShotTo(document: ProjectDocument, shot: Shot, to: number): Change {
  const shots = document.shots.map((s) => s.value);
  const from = shots.findIndex((s) => s.id === shot.id);
  const place = Math.min(Math.max(to, 0), shots.length - 1);
  const positions = shots.map((s) => s.position);
  const order = shots.toSpliced(from, 1).toSpliced(place, 0, shot);
  const moved = order.flatMap((each, i) =>
    each.position === positions[i] ? [] : [{ ...each, position: positions[i]! }],
  );
  return putShots(`Move ${shot.name}`, ...moved);
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
