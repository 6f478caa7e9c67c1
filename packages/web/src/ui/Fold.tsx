import type { ReactNode } from 'react';

interface Props {
  title: ReactNode;
  /** What is said beside the title while it is folded. */
  says?: ReactNode;
  /** What a screen reader and the tests call it. */
  label?: string;
  children: ReactNode;
}
/** What is needed now and then: a line, until it is opened. */
export function Fold({ title, says, label, children }: Props) {
  return (
    <details className="fold" {...(label && { role: 'group', 'aria-label': label })}>
      <summary>
        {title} {says !== undefined && <span className="quiet">{says}</span>}
      </summary>
      <div className="fold-body">{children}</div>
    </details>
  );
}
