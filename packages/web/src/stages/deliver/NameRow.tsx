import { Input } from 'antd';
import { NAME_WORDS, patternFault, renderFileName, type NameWords, type Preset } from '@mellow/contract';

interface Props {
  pattern: string;
  /** Of the first of the chosen shots. */
  words: NameWords;
  preset: Preset;
  onChange: (pattern: string) => void;
}
/** How the files are called, with the name of the first; what is wrong with the pattern, where something is. */
export function NameRow({ pattern, words, preset, onChange }: Props) {
  const fault = patternFault(pattern);
  return (
    <>
      <h2>Name</h2>
      <Input
        aria-label="Name pattern"
        size="small"
        value={pattern}
        maxLength={120}
        {...(fault && { status: 'error' })}
        title={NAME_WORDS.map((w) => `{${w}}`).join(' ')}
        onChange={(e) => onChange(e.target.value)}
      />
      <span className="quiet" {...(fault && { role: 'alert' })}>
        {fault ?? renderFileName(pattern, words, preset)}
      </span>
    </>
  );
}
