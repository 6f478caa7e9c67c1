import { Button, Segmented, Slider } from 'antd';
import { ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { ReviewPage } from '@mellow/contract';
import { Decisions } from './Decisions.tsx';
import { Films } from './Films.tsx';
import { approvedOf, filmsShown, type Mode } from './filmsShown.ts';
import { Marks } from './Marks.tsx';
import { NoteList } from './NoteList.tsx';
import { numbered, placeText } from './noteText.ts';
import { useFilms } from './useFilms.ts';
import { useMarking } from './useMarking.ts';
import { useSaying } from './useSaying.ts';
import { WriteNote } from './WriteNote.tsx';

interface Props {
  page: ReviewPage;
  token: string;
  shot: ReviewPage['shots'][number];
  colourwayId: ReviewPage['colourways'][number]['id'];
  /** Empty: they have not said. */
  who: string;
}
const MODES: { value: Mode; label: string }[] = [
  { value: 'wipe', label: 'Before | after' },
  { value: 'side by side', label: 'Side by side' },
];
const AGAINST_APPROVED: (typeof MODES)[number] = { value: 'approved', label: 'Approved | now' };

/** One shot of a review: its films, what was noted on its frames, what is decided of its pieces. */
export function ReviewShot({ page, token, shot, colourwayId, who }: Props) {
  const [wanted, setMode] = useState<Mode>('wipe');
  const isApproved = approvedOf(page, shot.id, colourwayId) !== undefined;
  const mode = wanted === 'approved' && !isApproved ? 'wipe' : wanted;
  const films = filmsShown(page, token, { shotId: shot.id, colourwayId, mode });
  const shown = films.map((f) => f.address).join(' ');
  const { box, frame, isPlaying, toggle, goTo } = useFilms(shot.fps, shot.frames, shown);
  const { marked, clear, hand } = useMarking();
  const say = useSaying(token);
  const notes = numbered(page.notes.filter((n) => n.shotId === shot.id));
  const own = shot.firstFrame + frame;
  const here = notes.filter((n) => n.frame === own && (n.colourwayId === null || n.colourwayId === colourwayId));
  const cannot = who === '' ? 'Say who you are first: your name, at the top' : undefined;
  useHotkeys('space', toggle, { preventDefault: true });
  useHotkeys('left', () => goTo(frame - 1));
  useHotkeys('right', () => goTo(frame + 1));
  const send = async (text: string) => {
    const isKept = await say.note({ shotId: shot.id, colourwayId, frame: own, text, who, ...marked });
    if (isKept) clear();
    return isKept;
  };
  return (
    <>
      <section className="review-picture" aria-label={shot.name}>
        <div className="row">
          <Segmented
            aria-label="Compare"
            options={isApproved ? [...MODES, AGAINST_APPROVED] : MODES}
            value={mode}
            onChange={setMode}
          />
        </div>
        <div className="review-frame">
          <Films box={box} films={films} mode={mode} aspect={shot.width / shot.height} colourwayId={colourwayId}>
            <Marks notes={here} draft={marked} {...hand} />
          </Films>
        </div>
        <div className="row">
          <Button size="small" aria-label={isPlaying ? 'Pause' : 'Play'} title="Space" onClick={toggle}>
            {isPlaying ? <Pause size={16} /> : <Play size={16} />}
          </Button>
          <Button size="small" aria-label="Previous frame" title="Left" onClick={() => goTo(frame - 1)}>
            <ChevronLeft size={16} />
          </Button>
          <Button size="small" aria-label="Next frame" title="Right" onClick={() => goTo(frame + 1)}>
            <ChevronRight size={16} />
          </Button>
          <Slider
            className="grow"
            min={0}
            max={shot.frames - 1}
            value={frame}
            onChange={goTo}
            ariaLabelForHandle="Frame"
            tooltip={{ formatter: (f) => placeText(shot, shot.firstFrame + (f ?? 0)) }}
            marks={Object.fromEntries(notes.map((n) => [n.frame - shot.firstFrame, <i key={n.id} className="tick" />]))}
          />
          <span className="mono quiet">{placeText(shot, own)}</span>
        </div>
      </section>
      <aside className="panel review-side" aria-label="Notes and decisions">
        {shot.sightings.length > 0 && (
          <>
            <h2>In {page.colourways.find((c) => c.id === colourwayId)!.name}</h2>
            <Decisions
              sightings={shot.sightings}
              verdictOf={(id) => page.verdicts.find((v) => v.sightingId === id && v.colourwayId === colourwayId)}
              cannot={cannot}
              onDecide={(sightingId, decision, text) =>
                void say.verdict({ sightingId, colourwayId, decision, text, who })
              }
            />
          </>
        )}
        <WriteNote
          frameText={placeText(shot, own)}
          isMarked={marked.spot !== null || marked.drawing.length > 0}
          cannot={cannot}
          onClear={clear}
          onSend={send}
        />
        <NoteList shot={shot} notes={notes} onGo={(note) => goTo(note.frame - shot.firstFrame)} />
      </aside>
    </>
  );
}
