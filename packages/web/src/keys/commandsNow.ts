// The commands that can be given at the moment: components say which while they are shown.
import { COMMAND_IDS, entryOf, type CommandId } from './keyTable.ts';

export interface Command {
  run: () => void;
  /** For one that works while its key is held: the key was let go. */
  release?: () => void;
  /** What it is called here, where the table's name is too general. */
  name?: string | undefined;
  isOn?: boolean | undefined;
  /** Why it cannot be given now. */
  cannot?: string | undefined;
}
type Source = () => Partial<Record<CommandId, Command>>;
const sources = new Set<Source>();

/** Says of some commands that they are there, until the returned function is called. */
export function there(source: Source): () => void {
  sources.add(source);
  return () => void sources.delete(source);
}
export interface CommandNow extends Command {
  id: CommandId;
  name: string;
}
/** In the table's order; of one that several places have, the one that can be given. */
export function commandsNow(): CommandNow[] {
  const now = new Map<CommandId, Command>();
  for (const source of sources)
    for (const [key, command] of Object.entries(source())) {
      const id = key as CommandId;
      if (!now.has(id) || now.get(id)!.cannot !== undefined) now.set(id, command);
    }
  return COMMAND_IDS.filter((id) => now.has(id)).map((id) => {
    const command = now.get(id)!;
    return { ...command, id, name: command.name ?? entryOf(id).name };
  });
}
