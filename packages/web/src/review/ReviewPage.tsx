import { Input, Progress, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import type { ReviewPage as Page } from '@mellow/contract';
import { problemText } from '../data/requests.ts';
import { useOpenReviewQuery } from '../data/reviews.ts';
import { keepName, keptName } from './who.ts';
import { rendered } from './filmsShown.ts';
import { ReviewShot } from './ReviewShot.tsx';
import './review.css';

/** How often it is asked how far the films are, ms. */
const ASK_MS = 2000;

/** What a client is given: the shots before and after, in every colourway, to look at, note and decide. */
export default function ReviewPage() {
  const token = useParams().token!;
  const [isUnderWay, setUnderWay] = useState(true);
  const { data: page, error } = useOpenReviewQuery(token, { pollingInterval: isUnderWay ? ASK_MS : 0 });
  const films = page && rendered(page.files);
  if (films && films.isUnderWay !== isUnderWay) setUnderWay(films.isUnderWay);
  if (error && !page) return <div className="empty">{problemText(error)}</div>;
  if (!page || !films) return <div className="empty">Opening the review …</div>;
  return <Opened page={page} token={token} films={films} />;
}

function Opened({ page, token, films }: { page: Page; token: string; films: ReturnType<typeof rendered> }) {
  const [shotId, setShotId] = useState(page.shots[0]!.id);
  const [colourwayId, setColourwayId] = useState(page.colourways[0]!.id);
  const [who, setWho] = useState(() => keptName(localStorage));
  const shot = page.shots.find((s) => s.id === shotId)!;
  const until = useMemo(() => new Date(page.expiresAt).toLocaleDateString(undefined, { dateStyle: 'medium' }), [page]);
  return (
    <>
      <header className="topbar">
        <strong className="shorten">{page.projectName}</strong>
        <span className="quiet shorten">
          {page.name} · until {until}
        </span>
        <span className="spring" />
        {films.isUnderWay && (
          <>
            <span className="quiet">rendering</span>
            <Progress percent={Math.floor((100 * films.done) / films.total)} size="small" style={{ width: 160 }} />
          </>
        )}
        {page.colourways.length > 1 && (
          <Segmented
            aria-label="Colourway"
            options={page.colourways.map(({ id, name }) => ({ value: id, label: name }))}
            value={colourwayId}
            onChange={setColourwayId}
          />
        )}
        <Input
          aria-label="Your name"
          placeholder="Your name"
          style={{ width: 150 }}
          maxLength={60}
          value={who}
          onChange={(e) => {
            setWho(e.target.value);
            keepName(localStorage, e.target.value);
          }}
        />
      </header>
      <main className="work review">
        <nav className="panel" aria-label="Shots">
          {page.shots.map((s) => (
            <button
              key={s.id}
              type="button"
              className="review-shot"
              aria-current={s.id === shotId}
              onClick={() => setShotId(s.id)}
            >
              <span className="shorten">{s.name}</span>
              <span className="quiet">
                {decided(
                  page,
                  s.sightings.map((x) => x.id),
                )}
              </span>
            </button>
          ))}
        </nav>
        <ReviewShot key={shot.id} page={page} token={token} shot={shot} colourwayId={colourwayId} who={who.trim()} />
      </main>
    </>
  );
}

/** How much of a shot is decided, over all colourways. */
function decided({ colourways, verdicts }: Page, sightings: readonly string[]): string {
  const all = sightings.length * colourways.length;
  if (all === 0) return '';
  const here = verdicts.filter((v) => sightings.includes(v.sightingId));
  const back = here.filter((v) => v.decision === 'sent back').length;
  const approved = `${here.length - back} of ${all} approved`;
  return back > 0 ? `${approved}, ${back} sent back` : approved;
}
