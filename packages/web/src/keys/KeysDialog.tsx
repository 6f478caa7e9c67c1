import { Button, Modal, Segmented } from 'antd';
import { useEffect, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { keyChanged, keyReset, keysReset } from '../view/keysSlice.ts';
import { commandsNow } from './commandsNow.ts';
import { keysText, keyText, pressedKey } from './keyText.ts';
import { COMMAND_IDS, entryOf, keysOf, PLACES, whyNotKey, type CommandId } from './keyTable.ts';

/** The keys of the place one is in, or all; each can be changed. */
export default function KeysDialog({ onClose }: { onClose: () => void }) {
  const dispatch = useAppDispatch();
  const changed = useAppSelector((s) => s.keys);
  const [here] = useState(() => commandsNow().map((c) => c.id));
  const [which, setWhich] = useState<'here' | 'all'>('here');
  const [asked, setAsked] = useState<CommandId>();
  const [refused, setRefused] = useState<string>();
  useEffect(() => {
    if (!asked) return;
    const take = (e: KeyboardEvent) => {
      e.preventDefault();
      e.stopImmediatePropagation();
      const key = pressedKey(e);
      if (!key) return;
      if (key === 'escape' && asked !== 'leave') return setAsked(undefined);
      const why = whyNotKey(asked, key, changed);
      setRefused(why && `${keyText(key)}: ${why}`);
      if (why) return;
      dispatch(keyChanged({ id: asked, keys: [key] }));
      setAsked(undefined);
    };
    window.addEventListener('keydown', take, { capture: true });
    return () => window.removeEventListener('keydown', take, { capture: true });
  }, [asked, changed, dispatch]);
  const ids = which === 'here' ? here : COMMAND_IDS;
  const ask = (id: CommandId) => {
    setRefused(undefined);
    setAsked(id);
  };
  return (
    <Modal
      open
      title="Keys"
      width={720}
      onCancel={onClose}
      style={{ top: 40 }}
      footer={
        <Button size="small" disabled={Object.keys(changed).length === 0} onClick={() => dispatch(keysReset())}>
          All as at first
        </Button>
      }
    >
      <div className="row">
        <Segmented
          size="small"
          aria-label="Which keys"
          options={[
            { value: 'here', label: 'Of this place' },
            { value: 'all', label: 'All' },
          ]}
          value={which}
          onChange={setWhich}
        />
        <span role="status" className="quiet">
          {refused}
        </span>
      </div>
      <div className="keys-list">
        {PLACES.map((place) => {
          const own = ids.filter((id) => entryOf(id).place === place);
          return own.length === 0 ? null : (
            <section key={place}>
              <h3>{place}</h3>
              {own.map((id) => (
                <div key={id} className="row">
                  <span className="grow">{entryOf(id).name}</span>
                  {changed[id] && (
                    <Button size="small" type="text" onClick={() => dispatch(keyReset(id))}>
                      as at first
                    </Button>
                  )}
                  <Button size="small" aria-label={`Key of ${entryOf(id).name}`} onClick={() => ask(id)}>
                    {asked === id ? 'press a key' : keysText(keysOf(id, changed)) || '–'}
                  </Button>
                </div>
              ))}
            </section>
          );
        })}
      </div>
    </Modal>
  );
}
