import { lazy, Suspense } from 'react';
import type { NameQuestion } from './AskNameDialog.tsx';

const AskNameDialog = lazy(() => import('./AskNameDialog.tsx'));

/** Asks for a name. The dialog is loaded when it is first wanted: nobody needs one on the way to a picture. */
export function AskName(question: NameQuestion) {
  return (
    <Suspense fallback={null}>
      <AskNameDialog {...question} />
    </Suspense>
  );
}
