import type { Note, ReviewPage } from '@mellow/contract';
import { placeText } from './noteText.ts';

type Numbered = Note & { number: number };
interface Props {
  shot: ReviewPage['shots'][number];
  notes: readonly Numbered[];
  onGo: (note: Numbered) => void;
}
/** What has been noted on a shot; a click goes to the frame. */
export function NoteList({ shot, notes, onGo }: Props) {
  if (notes.length === 0) return <p className="quiet">Nothing is noted on this shot yet.</p>;
  return (
    <ol className="note-list" aria-label="Notes">
      {notes.map((note) => (
        <li key={note.id}>
          <button type="button" onClick={() => onGo(note)}>
            <span className="pin">{note.number}</span>
            <span className={note.isSettled ? 'quiet' : ''}>
              {note.text}
              <br />
              <span className="quiet">
                {note.who}, {placeText(shot, note.frame)}
                {note.isSettled ? ' · ✓ done' : ''}
              </span>
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}
