import { Input } from 'antd';
import { useState } from 'react';

interface Props {
  name: string;
  label: string;
  disabled: boolean;
  /** It was gone to, and is not being renamed. */
  onSelect: () => void;
  onRename: (name: string) => void;
}
/** A name that is changed in its place: by a double click or F2, so that a click only chooses what it names. */
export function NameField({ name, label, disabled, onSelect, onRename }: Props) {
  const [draft, setDraft] = useState<string>();
  const take = () => {
    const next = draft?.trim();
    setDraft(undefined);
    if (next && next !== name) onRename(next);
  };
  return (
    <Input
      aria-label={label}
      title={disabled ? '' : 'Double click or F2 to rename'}
      size="small"
      variant="borderless"
      style={{ fontWeight: 600, padding: 0, cursor: draft === undefined ? 'default' : 'text' }}
      value={draft ?? name}
      readOnly={draft === undefined}
      maxLength={120}
      disabled={disabled}
      onFocus={onSelect}
      onDoubleClick={() => setDraft(draft ?? name)}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'F2') setDraft(draft ?? name);
        else if (e.key === 'Escape') setDraft(undefined);
        else if (e.key === 'Enter' && draft !== undefined) e.currentTarget.blur();
      }}
    />
  );
}
