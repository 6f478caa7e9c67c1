import { Link } from 'react-router';
import { useAppDispatch } from '../../app/store.ts';
import { moved } from '../../view/whereSlice.ts';
import type { Check } from './checks.ts';

interface Props {
  projectId: string;
  checks: readonly Check[];
  isChosen: boolean;
  /** How far the footage has been compared with what came in. */
  footage: 'compared' | 'being compared' | 'not compared';
}
/** What a careful hand looks at before rendering. */
export function Checks({ projectId, checks, isChosen, footage }: Props) {
  const isClean = isChosen && checks.length === 0 && footage === 'compared';
  return (
    <>
      <h2>Checks</h2>
      {!isChosen && <span className="quiet">No shot is chosen.</span>}
      {isClean && <span>✓ Nothing to mend.</span>}
      {footage === 'being compared' && <span className="quiet">Comparing the footage with what came in …</span>}
      {footage === 'not compared' && <span role="alert">⚠ The footage could not be compared with what came in.</span>}
      {checks.map((check, i) => (
        <CheckLine key={`${i} ${check.text}`} check={check} projectId={projectId} />
      ))}
    </>
  );
}

/** One thing to know before rendering: its state in a word, and the way to where it is mended. */
function CheckLine({ check: { mark, word, text, at, frame }, projectId }: { check: Check; projectId: string }) {
  const dispatch = useAppDispatch();
  const { shotId, pieceId, stage } = at;
  return (
    <Link
      className="check"
      to={`/projects/${projectId}/${stage}`}
      onClick={() =>
        dispatch(moved({ shotId, ...(pieceId && { pieceId, layerId: null }), ...(frame !== undefined && { frame }) }))
      }
    >
      <strong>
        {mark} {word}
      </strong>{' '}
      {text}
    </Link>
  );
}
