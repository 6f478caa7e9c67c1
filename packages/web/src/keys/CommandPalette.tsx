import { Modal } from 'antd';
import { Command } from 'cmdk';
import { useRef, useState } from 'react';
import { useAppSelector } from '../app/store.ts';
import { commandsNow, type CommandNow } from './commandsNow.ts';
import { keysText } from './keyText.ts';
import { paletteMatch } from './paletteMatch.ts';
import { entryOf, keysOf, PLACES, type ChangedKeys } from './keyTable.ts';

/** Every command that can be given here, found by typing a part of its name. */
export default function CommandPalette({ onClose }: { onClose: () => void }) {
  const changed = useAppSelector((s) => s.keys);
  const [commands] = useState(() => commandsNow().filter((c) => !c.release && c.id !== 'palette'));
  const input = useRef<HTMLInputElement>(null);
  const give = (command: CommandNow) => {
    onClose();
    command.run();
  };
  return (
    <Modal
      open
      title="Find a command"
      footer={null}
      width={560}
      onCancel={onClose}
      style={{ top: 72 }}
      closable={false}
      afterOpenChange={(isOpen) => isOpen && input.current?.focus()}
    >
      <Command className="palette" label="Find a command" filter={paletteMatch} loop>
        <Command.Input ref={input} placeholder="what it does, or where" aria-label="Find a command" />
        <Command.List>
          <Command.Empty>No command is called that.</Command.Empty>
          {[...PLACES.slice(1), PLACES[0]].map((place) => {
            const own = commands.filter((c) => entryOf(c.id).place === place);
            return own.length === 0 ? null : (
              <Command.Group key={place} heading={place}>
                {own.map((command) => (
                  <Item key={command.id} command={command} changed={changed} onGive={() => give(command)} />
                ))}
              </Command.Group>
            );
          })}
        </Command.List>
      </Command>
    </Modal>
  );
}

function Item({ command, changed, onGive }: { command: CommandNow; changed: ChangedKeys; onGive: () => void }) {
  const { id, name, isOn, cannot } = command;
  return (
    <Command.Item
      value={`${name} ${id}`}
      keywords={[entryOf(id).place, entryOf(id).name]}
      disabled={cannot !== undefined}
      onSelect={onGive}
    >
      <span className="grow">{name}</span>
      {isOn && <span className="quiet">on</span>}
      {cannot !== undefined && <span className="quiet">{cannot}</span>}
      <kbd>{keysText(keysOf(id, changed))}</kbd>
    </Command.Item>
  );
}
