// A review from its sending to what is said of it, over HTTP as the house and as the client.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, Edit, NewReview, NewVerdict, Review } from '@mellow/contract';
import { words } from '../media/words.ts';
import { boxed, type Boxed } from '../testing/boxed.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';

const [W, H, FRAMES] = [64, 48, 6];
const work = mkdtempSync(join(tmpdir(), 'mellow-review-'));
let h: Harness;
let own: Boxed;
let review: Review;

const ask = (more: Partial<NewReview> = {}): NewReview => ({
  name: 'First',
  shotIds: [own.shotId],
  colourwayIds: [own.colourwayId],
  daysValid: 7,
  withLook: false,
  ...more,
});
const note = (more: object = {}) =>
  ({
    id: randomUUID(),
    shotId: own.shotId,
    colourwayId: own.colourwayId,
    frame: 2,
    text: 'Warmer here',
    who: 'Ada',
    spot: [0.25, 0.5],
    drawing: [],
    ...more,
  }) as never;
const verdict = (decision: NewVerdict['decision'], more: object = {}) =>
  ({
    id: randomUUID(),
    sightingId: own.sightingId,
    colourwayId: own.colourwayId,
    decision,
    who: 'Ada',
    text: '',
    ...more,
  }) as never;
const film = (deliveryId: string, headers: Record<string, string> = {}) =>
  fetch(`${h.url}/api/reviews/${review.token}/files/${deliveryId}`, { headers: { connection: 'close', ...headers } });
async function turnTo(hueDeg: number): Promise<void> {
  const { value, revision } = (await h.call('getProject', { projectId: own.projectId })).recipes[0]!;
  const edit: Edit = { kind: 'recipe', id: value.id, revision, value: { ...value, shift: { ...value.shift, hueDeg } } };
  await h.call('change', own as never, { id: randomUUID() as ChangeId, label: 'Turn', edits: [edit] });
}
const quarterTurn = { exposureStops: 0, hueDeg: 90, saturation: 1, density: 0 };
/** The mean of a film's first frame in the box and outside it, each as 8 bit red, green and blue. */
async function means(deliveryId: string): Promise<{ inside: number[]; outside: number[] }> {
  const path = join(work, `${deliveryId}.mp4`);
  writeFileSync(path, Buffer.from(await (await film(deliveryId)).arrayBuffer()));
  const mean = (crop: string) => [
    ...execFileSync('ffmpeg', [
      ...words('-v error -i'),
      path,
      '-vf',
      `${crop},scale=1:1:flags=area,format=rgb24`,
      ...words('-frames:v 1 -f rawvideo -'),
    ]),
  ];
  return { inside: mean('crop=12:12:26:18'), outside: mean('crop=8:8:2:2') };
}

beforeAll(async () => {
  h = await startHarness({ workers: true });
  const source = join(work, 'red.mkv');
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i'),
    `color=0xA03020:size=${W}x${H}:rate=24`,
    ...words(`-frames:v ${FRAMES} -vf format=gbrp16le -c:v ffv1 -metadata timecode=01:00:00:00`),
    source,
  ]);
  own = await boxed(h, 'Spot', source, { cx: 32, cy: 24, width: 20, height: 20 }, quarterTurn);
  review = await h.call('sendReview', own as never, ask());
  await until('the films', async () => {
    const [now] = await h.call('listReviews', own as never);
    review = now!;
    if (now!.files.some((f) => f.state === 'failed')) throw new Error('a film failed');
    return now!.files.every((f) => f.state === 'done');
  });
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

describe('a review', () => {
  it('shows what was sent and no more: the shot, its piece, its films as filmed and in the colourway', async () => {
    const page = await h.call('openReview', { token: review.token });
    expect(page).toMatchObject({ name: 'First', projectName: 'Spot', notes: [], verdicts: [] });
    expect(page.shots).toMatchObject([
      { name: 'red', width: W, height: H, firstFrame: 0, frames: FRAMES, timecode: '01:00:00:00' },
    ]);
    expect(page.shots[0]!.sightings).toEqual([{ id: own.sightingId, name: 'Box' }]);
    expect(page.files.map((f) => [f.colourwayId, f.state])).toEqual([
      [null, 'done'],
      [own.colourwayId, 'done'],
    ]);
    expect(JSON.stringify(page)).not.toMatch(/layers|recipe|sha256/);
  });
  it('has a film as it was filmed, and one in which the piece alone is another colour', async () => {
    const [filmed, coloured] = review.files;
    const [a, b] = [await means(coloured!.deliveryId), await means(filmed!.deliveryId)];
    // 8 bit 4:2:0 of a flat colour: a code or two; #A03020 is (160, 48, 32)
    for (const [i, code] of [160, 48, 32].entries()) {
      expect(Math.abs(b.inside[i]! - code)).toBeLessThanOrEqual(2);
      expect(Math.abs(a.outside[i]! - code)).toBeLessThanOrEqual(2);
    }
    // a quarter turn takes red to green
    expect(a.inside[1]).toBeGreaterThan(a.inside[0]!);
  });
  it('gives parts of a film, so that one can jump in it', async () => {
    const answer = await film(review.files[0]!.deliveryId, { range: 'bytes=4-7' });
    expect([answer.status, answer.headers.get('content-type'), await answer.text()]).toEqual([
      206,
      'video/mp4',
      'ftyp',
    ]);
  });
  it('is no render to hand over, and counts as none', async () => {
    expect(await h.call('listDeliveries', own as never)).toEqual([]);
    const request = { shotIds: [own.shotId], colourwayIds: [own.colourwayId], preset: 'h264', namePattern: '{n}' };
    const [first] = await h.call('render', own as never, request as never);
    expect(first!.fileName).toBe('1.mp4');
  });
  it('gives no film but its own, and opens by nothing but its link', async () => {
    const [delivery] = await h.call('listDeliveries', own as never);
    expect((await film(delivery!.id)).status).toBe(404);
    expect((await film(randomUUID())).status).toBe(404);
    for (const token of ['x', review.id, `${review.token}A`, '%00'])
      expect((await h.problem('openReview', { token })).status).toBeGreaterThanOrEqual(400);
    expect((await h.problem('openReview', { token: 'x' })).detail).toMatch(/opens nothing/);
  });
  it('of what the project does not have is refused, and nothing is queued', async () => {
    const before = (await h.call('listReviews', own as never)).length;
    for (const [bad, code] of [
      [{ shotIds: [randomUUID()] }, 'not-found'],
      [{ colourwayIds: [randomUUID()] }, 'not-found'],
      [{ daysValid: 91 }, 'invalid-input'],
      [{ withLook: true }, 'conflict'],
    ] as const)
      expect((await h.problem('sendReview', own as never, ask(bad as never))).code).toBe(code);
    expect((await h.call('listReviews', own as never)).length).toBe(before);
  });
});

describe('a note', () => {
  it('of the client’s is kept with its place, once, and read by the house and in the review', async () => {
    const written = note({ drawing: [[[0.1, 0.1], [0.2, 0.3]]] }); // prettier-ignore
    const kept = await h.call('addReviewNote', { token: review.token }, written);
    await h.call('addReviewNote', { token: review.token }, written);
    expect(kept).toMatchObject({ text: 'Warmer here', who: 'Ada', spot: [0.25, 0.5], reviewId: review.id });
    expect(await h.call('listNotes', own as never)).toEqual([kept]);
    expect((await h.call('openReview', { token: review.token })).notes).toEqual([kept]);
  });
  it('of the house stays in the house', async () => {
    const mine = await h.call('addNote', own as never, note({ text: 'Roto by hand', who: 'local' }));
    expect(mine.reviewId).toBeNull();
    expect(await h.call('listNotes', own as never)).toHaveLength(2);
    expect((await h.call('openReview', { token: review.token })).notes).toHaveLength(1);
  });
  it('is ticked off and opened again, in its own project only', async () => {
    const { id } = (await h.call('listNotes', own as never))[0]!;
    const at = { projectId: own.projectId, noteId: id };
    expect((await h.call('settleNote', at, { isSettled: true })).isSettled).toBe(true);
    expect((await h.call('settleNote', at, { isSettled: false })).isSettled).toBe(false);
    const other = (await h.call('createProject', {}, { name: 'Other' })).id;
    const problem = await h.problem('settleNote', { projectId: other, noteId: id }, { isSettled: true });
    expect(problem.code).toBe('not-found');
  });
  it('is refused beyond the shot, in what was not sent, or outside the picture', async () => {
    for (const [bad, code] of [
      [{ frame: FRAMES }, 'invalid-input'],
      [{ shotId: randomUUID() }, 'not-found'],
      [{ colourwayId: randomUUID() }, 'not-found'],
      [{ spot: [0.5, 1.2] }, 'invalid-input'],
      [{ text: '  ' }, 'invalid-input'],
      [{ text: 'a'.repeat(2001) }, 'invalid-input'],
    ] as const)
      expect((await h.problem('addReviewNote', { token: review.token }, note(bad))).code).toBe(code);
    expect((await h.call('openReview', { token: review.token })).notes).toHaveLength(1);
  });
});

describe('a later version', () => {
  const approvedIn = async (token: string) => (await h.call('openReview', { token })).approved;
  it('is compared with the film of the last that was approved, over its own link', async () => {
    await h.call('addVerdict', { token: review.token }, verdict('approved'));
    const next = await h.call('sendReview', own as never, ask({ name: 'Second' }));
    const [before, ...others] = await approvedIn(next.token);
    expect(others).toEqual([]);
    const { deliveryId } = review.files.find((f) => f.colourwayId === own.colourwayId)!;
    expect(before).toMatchObject({ deliveryId, reviewName: 'First', shotId: own.shotId, state: 'done' });
    const read = (token: string, id: string) =>
      fetch(`${h.url}/api/reviews/${token}/files/${id}`, { headers: { connection: 'close' } });
    expect((await read(next.token, deliveryId)).status).toBe(200);
    // what was filmed was not approved, and what comes later is not shown to who was sent the first
    expect((await read(next.token, review.files[0]!.deliveryId)).status).toBe(404);
    expect(await approvedIn(review.token)).toEqual([]);
    // what has been approved and then sent back is no version to compare with
    await h.call('addVerdict', { token: review.token }, verdict('sent back'));
    expect(await approvedIn(next.token)).toEqual([]);
  });
  it('of another part of the shot is compared with nothing', async () => {
    await h.call('addVerdict', { token: review.token }, verdict('approved'));
    const { value, revision } = (await h.call('getProject', own as never)).shots[0]!;
    const edit: Edit = { kind: 'shot', id: value.id, revision, value: { ...value, span: { from: 0, to: 3 } } };
    await h.call('change', own as never, { id: randomUUID() as ChangeId, label: 'Trim', edits: [edit] });
    const part = await h.call('sendReview', own as never, ask({ name: 'Part' }));
    await h.call('undo', own as never, { id: randomUUID() as ChangeId });
    const whole = await h.call('sendReview', own as never, ask({ name: 'Whole' }));
    expect(await approvedIn(part.token)).toEqual([]);
    expect(await approvedIn(whole.token)).toHaveLength(1);
  });
});

describe('a verdict', () => {
  const standing = async () => (await h.call('listVerdicts', own as never)).map((v) => [v.decision, v.holds]);
  it('holds until what was approved is changed, and again when that is undone', async () => {
    await h.call('addVerdict', { token: review.token }, verdict('approved'));
    expect(await standing()).toEqual([['approved', true]]);
    await turnTo(20);
    expect(await standing()).toEqual([['approved', false]]);
    await h.call('undo', own as never, { id: randomUUID() as ChangeId });
    expect(await standing()).toEqual([['approved', true]]);
  });
  it('is replaced by the next, of which a repeat changes nothing', async () => {
    const back = verdict('sent back', { text: 'Too green' });
    const page = await h.call('addVerdict', { token: review.token }, back);
    expect(page.verdicts).toMatchObject([{ decision: 'sent back', text: 'Too green', who: 'Ada' }]);
    await h.call('addVerdict', { token: review.token }, verdict('approved'));
    await h.call('addVerdict', { token: review.token }, back);
    expect(await standing()).toEqual([['approved', true]]);
  });
  it('is refused of what was not sent', async () => {
    for (const bad of [{ sightingId: randomUUID() }, { colourwayId: randomUUID() }])
      expect((await h.problem('addVerdict', { token: review.token }, verdict('approved', bad))).code).toBe('not-found');
  });
});

it('that is withdrawn opens nothing any more; what was said stays', async () => {
  expect((await h.call('withdrawReview', { projectId: own.projectId, reviewId: review.id })).isOpen).toBe(false);
  for (const [name, body] of [
    ['openReview', undefined],
    ['addReviewNote', note()],
    ['addVerdict', verdict('approved')],
  ] as const)
    expect((await h.problem(name, { token: review.token }, body)).code).toBe('not-found');
  expect((await film(review.files[0]!.deliveryId)).status).toBe(404);
  expect(await h.call('listNotes', own as never)).toHaveLength(2);
  expect(await h.call('listVerdicts', own as never)).toHaveLength(1);
});
