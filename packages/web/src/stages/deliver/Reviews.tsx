import { Button, Checkbox } from 'antd';
import { Copy, ExternalLink } from 'lucide-react';
import { Link } from 'react-router';
import type { Note, ProjectDocument, Review } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { problemText } from '../../data/requests.ts';
import { useReviewsQuery, useSettleNoteMutation, useWithdrawReviewMutation } from '../../data/reviews.ts';
import { rendered } from '../../review/filmsShown.ts';
import { moved } from '../../view/whereSlice.ts';

interface Props {
  document: ProjectDocument;
  notes: readonly Note[];
}
/** What has been sent for review, and what is noted on the shots. */
export function Reviews({ document, notes }: Props) {
  const { data: reviews = [] } = useReviewsQuery(document.project.value.id);
  if (reviews.length === 0 && notes.length === 0) return null;
  return (
    <div className="deliveries reviews">
      {reviews.map((review) => (
        <ReviewLine key={review.id} review={review} />
      ))}
      {notes.length > 0 && <Notes document={document} notes={notes} />}
    </div>
  );
}

const dateText = (at: string): string => new Date(at).toLocaleDateString(undefined, { dateStyle: 'medium' });
function stateText({ isOpen, files, expiresAt }: Review): string {
  if (!isOpen) return `ended ${dateText(expiresAt)}`;
  const { done, total, isUnderWay } = rendered(files);
  const until = `open until ${dateText(expiresAt)}`;
  return isUnderWay ? `rendering, ${Math.floor((100 * done) / total)} % · ${until}` : until;
}

function ReviewLine({ review }: { review: Review }) {
  const [withdraw] = useWithdrawReviewMutation();
  const { message } = useNotices();
  const link = `${location.origin}/review/${review.token}`;
  const copy = async () => {
    await navigator.clipboard.writeText(link);
    void message.success('The link is in the clipboard.');
  };
  const end = async () => {
    const { error } = await withdraw(review);
    if (error) void message.error(problemText(error), 8);
  };
  return (
    <section aria-label={review.name} className="row">
      <strong>{review.name}</strong>
      <span className="quiet grow">{stateText(review)}</span>
      {review.isOpen && (
        <>
          <Button size="small" icon={<Copy size={14} />} onClick={() => void copy()}>
            Copy the link
          </Button>
          <Button size="small" icon={<ExternalLink size={14} />} href={link} target="_blank">
            Open
          </Button>
          <Button size="small" onClick={() => void end()}>
            Withdraw
          </Button>
        </>
      )}
    </section>
  );
}

/** Notes on all shots, open ones first; each leads to its frame. */
function Notes({ document, notes }: Props) {
  const dispatch = useAppDispatch();
  const [settle] = useSettleNoteMutation();
  const projectId = document.project.value.id;
  const listed = [...notes].sort((a, b) => Number(a.isSettled) - Number(b.isSettled));
  return (
    <ul className="notes" aria-label="Notes">
      {listed.map((note) => {
        const shot = document.shots.find((s) => s.value.id === note.shotId)?.value;
        const colourway = document.colourways.find((c) => c.value.id === note.colourwayId)?.value;
        const { colourwayId, frame } = note;
        return (
          <li key={note.id} className="row">
            <Checkbox
              aria-label={`Done: ${note.text}`}
              checked={note.isSettled}
              onChange={(e) => void settle({ projectId, noteId: note.id, isSettled: e.target.checked })}
            />
            <span className={note.isSettled ? 'quiet grow' : 'grow'}>{note.text}</span>
            <span className="quiet">
              {note.who}
              {colourway ? ` · ${colourway.name}` : ''}
            </span>
            {shot && (
              <Link
                to={`/projects/${projectId}/recolour`}
                onClick={() => dispatch(moved({ shotId: shot.id, frame, ...(colourwayId && { colourwayId }) }))}
              >
                {shot.name}, frame {frame}
              </Link>
            )}
          </li>
        );
      })}
    </ul>
  );
}
