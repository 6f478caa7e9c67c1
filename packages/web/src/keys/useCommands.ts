import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { store, useAppSelector } from '../app/store.ts';
import { takesKeys } from '../view/dialogSlice.ts';
import { there, type Command } from './commandsNow.ts';
import { keysOf, type CommandId } from './keyTable.ts';
import { goesToItsTarget } from './target.ts';

export type Commands = Partial<Record<CommandId, Command>>;

/** The commands there are while a component is shown: by their keys, and in the list of commands. */
export function useCommands(commands: Commands): void {
  const changed = useAppSelector((s) => s.keys);
  const latest = useRef(commands);
  latest.current = commands;
  useEffect(() => there(() => latest.current), []);
  const ids = Object.keys(commands) as CommandId[];
  const byKey = new Map(ids.flatMap((id) => keysOf(id, changed).map((key) => [key, id] as const)));
  const keys = [...byKey.keys()];
  const held = keys.filter((key) => commands[byKey.get(key)!]!.release);
  const common = { enableOnFormTags: true, ignoreEventWhen: goesToItsTarget };
  const shown = keys.join(' ');
  useHotkeys(
    keys,
    (e, { hotkey }) => {
      const command = latest.current[byKey.get(hotkey)!];
      // what is typed while a dialog is still on its way is meant for it
      if (!command || command.cannot !== undefined || takesKeys(store.getState().dialog)) return;
      e.preventDefault();
      command.run();
    },
    { ...common, enabled: keys.length > 0 },
    [shown],
  );
  useHotkeys(
    held,
    (_e, { hotkey }) => latest.current[byKey.get(hotkey)!]?.release?.(),
    { ...common, keyup: true, keydown: false, enabled: held.length > 0 },
    [shown],
  );
}
