import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROUTES, type JobId, type MediaId, type ProjectId, type RouteName, type ShotId } from '@mellow/contract';
import { insertDelivery } from '../db/deliveries.ts';
import { shots } from '../db/entities.ts';
import { keepMedia } from '../db/media.ts';
import { giveRole } from '../db/people.ts';
import { queueJob } from '../jobs/queue.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { someMedia } from '../testing/media.ts';
import { browser, signedIn, type Browser } from '../testing/people.ts';

// Who may do what, written down once more by hand: a right that is changed in the table must be changed here too.
const ANYONE = ['health', 'live', 'ready', 'me', 'signIn', 'signOut', 'signInElsewhere', 'signedInElsewhere'];
const LINK = [
  ...['findInvitation', 'acceptInvitation'],
  ...['openReview', 'reviewFile', 'addReviewNote', 'addVerdict'],
];
const PERSON = ['openapi', 'listProjects', 'cube', 'listKeptSettings'];
const CONTRIBUTOR = ['listUploads', 'createUpload', 'uploadOffset', 'continueUpload', 'dropUpload'];
const MEMBER = [
  ...['listPeople', 'createProject', 'openArchive', 'openSentArchive', 'listFolder', 'keepSettings', 'dropSettings'],
  'space',
];
const ADMIN = ['metrics', 'addPerson', 'changePerson', 'invite'];
const VIEWER = [
  ...['listMembers', 'getProject', 'listChanges', 'here', 'events', 'footageFaults', 'footageCuts', 'frame'],
  ...['listTracks', 'carriedFrame', 'listMeasurements', 'listJobs', 'listDeliveries', 'download', 'deliveryStill'],
  ...['listVerdicts', 'listNotes'],
];
const REVIEWER = ['change', 'undo', 'redo', 'addNote', 'settleNote', 'listReviews'];
const EDITOR = [
  ...['giveRole', 'duplicateProject', 'saveArchive', 'setProjectState', 'importUploads', 'uploadMedia', 'uploadPlate'],
  ...['importFromFolder', 'uploadCube', 'readMedia', 'track', 'carry', 'cancelJob', 'retryJob', 'render'],
  ...['sendReview', 'withdrawReview'],
  // last: what it names is gone then
  'deleteDelivery',
];
/** An editor who is no guest. */
const OF_THE_HOUSE = ['deleteProject'];
const IN_PROJECT = new Set([...VIEWER, ...REVIEWER, ...EDITOR]);
const EVERYBODY = new Set([...ANYONE, ...LINK]);

/** What somebody may do in a project of theirs, and what in another's. */
const WHO: Record<string, { own: Set<string>; others: Set<string> }> = {
  nobody: { own: EVERYBODY, others: EVERYBODY },
  viewer: { own: new Set([...EVERYBODY, ...PERSON, ...VIEWER]), others: new Set([...EVERYBODY, ...PERSON]) },
  reviewer: {
    own: new Set([...EVERYBODY, ...PERSON, ...VIEWER, ...REVIEWER]),
    others: new Set([...EVERYBODY, ...PERSON]),
  },
  editor: {
    own: new Set([...EVERYBODY, ...PERSON, ...CONTRIBUTOR, ...IN_PROJECT]),
    others: new Set([...EVERYBODY, ...PERSON, ...CONTRIBUTOR]),
  },
  member: {
    own: new Set([...EVERYBODY, ...PERSON, ...CONTRIBUTOR, ...MEMBER]),
    others: new Set([...EVERYBODY, ...PERSON, ...CONTRIBUTOR, ...MEMBER]),
  },
  admin: { own: new Set(Object.keys(ROUTES)), others: new Set(Object.keys(ROUTES)) },
};

let h: Harness;
const people: Record<string, Browser> = {};
const projects: Record<'own' | 'others', Record<string, string>> = { own: {}, others: {} };

/** A project with footage, a job and a delivery, so that every address names something that is there. */
async function aProject(admin: Browser, name: string): Promise<Record<string, string>> {
  const projectId = (await admin.call('createProject', {}, { name })).id;
  const media = await keepMedia(h.pool, someMedia());
  const mediaId = media.media.id;
  const shotId = randomUUID() as ShotId;
  const plain = { balance: null, light: null, patches: [], span: null, look: null };
  const shot = { id: shotId, projectId, mediaId, name: 'A shot', position: 0, encoding: 'rec709' as const, ...plain };
  await shots.insert(h.pool, shot, 1);
  const jobId = randomUUID() as JobId;
  const job = { id: jobId, projectId, kind: 'render' as const, subject: shotId, title: 'A render', total: 1 };
  await queueJob(h.pool, { ...job, payload: {} });
  const deliveryId = randomUUID();
  const delivered = { shotName: 'A shot', colourwayName: 'Main', preset: 'h264', fileName: 'a.mp4' } as const;
  await insertDelivery(h.pool, { id: deliveryId, projectId, shotId, jobId, ...delivered });
  const other = {
    runId: randomUUID(),
    noteId: randomUUID(),
    reviewId: randomUUID(),
    personId: randomUUID(),
    uploadId: randomUUID(),
  };
  const plainParts = { sha256: '0'.repeat(64), token: 'none', size: 'proxy', frame: '0', still: '0.png' };
  return { projectId, mediaId, shotId, jobId, deliveryId, ...other, ...plainParts };
}

beforeAll(async () => {
  h = await startHarness({ people: true, changesAMinute: { signedIn: 1e6, without: 1e6 } });
  const admin = await signedIn(h, 'admin', 'admin');
  projects.own = await aProject(admin, 'Own');
  projects.others = await aProject(admin, 'Of others');
  people.admin = admin;
  people.nobody = browser(h);
  people.member = await signedIn(h, 'member', 'member');
  for (const role of ['viewer', 'reviewer', 'editor'] as const) {
    const guest = await signedIn(h, role, 'guest');
    await giveRole(h.pool, projects.own.projectId!, guest.person.id, role);
    people[role] = guest;
  }
});
afterAll(() => h.close());

/** Sends an operation with nothing in its body: what is allowed is refused for that, or done, but not for who asks. */
async function isLetIn(who: Browser, name: RouteName, params: Record<string, string>): Promise<boolean> {
  const cookie = who.cookie;
  const response = await who.send(name, params, ROUTES[name].method === 'post' ? {} : undefined);
  // of what is asked for by its head alone, the status says it
  if (name === 'uploadOffset') return ![401, 403].includes(response.status);
  const isProblem = response.headers.get('content-type')?.startsWith('application/problem+json');
  const problem = isProblem ? ((await response.json()) as { code: string; detail: string }) : undefined;
  if (!isProblem) await response.body?.cancel();
  who.cookie = cookie;
  if (!problem) return true;
  if (['signed-out', 'not-allowed'].includes(problem.code)) return false;
  // what is in a project of others is not there; an id of nothing is not there for anybody
  return !(
    problem.code === 'not-found' && /^There is no (project|job|delivery|media) [0-9a-f-]{36}\.$/.test(problem.detail)
  );
}

describe('every operation', () => {
  it('stands in one of the lists above', () => {
    const listed = [...EVERYBODY, ...PERSON, ...CONTRIBUTOR, ...MEMBER, ...ADMIN, ...OF_THE_HOUSE, ...IN_PROJECT];
    expect(listed.toSorted()).toEqual(Object.keys(ROUTES).toSorted());
  });
  for (const who of Object.keys(WHO))
    for (const where of ['own', 'others'] as const)
      it(`is done for ${who} only as listed, in a project of ${where}`, async () => {
        const wrong: string[] = [];
        for (const name of Object.keys(ROUTES) as RouteName[]) {
          // it ends the session that the next ones are sent with
          if (name === 'signOut') continue;
          const isAllowed = WHO[who]![where].has(name);
          if ((await isLetIn(people[who]!, name, projects[where])) !== isAllowed)
            wrong.push(`${name} ${isAllowed ? 'was refused' : 'was done'}`);
        }
        expect(wrong).toEqual([]);
      });
});

it('a member who is an editor deletes a project for good', async () => {
  const { id: projectId } = await people.member!.call('createProject', {}, { name: 'Passing' });
  await people.member!.call('setProjectState', { projectId }, { state: 'removed' });
  expect((await people.member!.send('deleteProject', { projectId })).status).toBe(200);
});

describe('what a request names in its body', () => {
  it('is looked at too: pieces of a project that is not one’s own', async () => {
    const body = { name: 'Copy', piecesOf: projects.others.projectId as ProjectId };
    expect((await people.member!.send('createProject', {}, body)).status).toBe(404);
    const { rows } = await h.pool.query(`select 1 from project where name = 'Copy'`);
    expect(rows).toEqual([]);
  });
  it('and footage of another project, which cannot be brought into one’s own by its id', async () => {
    const { projectId, shotId } = projects.own as { projectId: ProjectId; shotId: ShotId };
    const stored = (await shots.find(h.pool, shotId))!;
    const value = { ...stored.value, mediaId: projects.others.mediaId as MediaId };
    const edits = [{ kind: 'shot' as const, id: shotId, revision: stored.revision, value }];
    const body = { id: randomUUID(), label: 'Take', edits };
    const refused = await people.editor!.send('change', { projectId }, body);
    expect(refused.status).toBe(404);
    expect((await shots.find(h.pool, shotId))!.value.mediaId).toBe(projects.own.mediaId);
    expect((await people.admin!.send('change', { projectId }, body)).status).toBe(200);
    await people.admin!.call('undo', { projectId }, { id: randomUUID() as never });
  });
  it('a reviewer changes how far a sighting is, and nothing else of it', async () => {
    const { projectId, shotId } = projects.own as { projectId: ProjectId; shotId: ShotId };
    const [pieceId, sightingId] = [randomUUID(), randomUUID()];
    const piece = { id: pieceId, projectId, name: 'Lark', kind: 'product', position: 0 };
    const sighting = { id: sightingId, projectId, pieceId, shotId, layers: [], state: 'ready' };
    const send = (who: string, edit: object) =>
      people[who]!.send('change', { projectId }, { id: randomUUID(), label: 'Edit', edits: [edit] });
    await send('editor', { kind: 'piece', id: pieceId, revision: null, value: piece });
    await send('editor', { kind: 'sighting', id: sightingId, revision: null, value: sighting });
    const own = { kind: 'sighting', id: sightingId, revision: 1 };
    expect((await send('reviewer', { ...own, value: { ...sighting, steadyFrames: 2 } })).status).toBe(403);
    expect((await send('reviewer', { ...own, value: null })).status).toBe(403);
    const approved = await send('reviewer', { ...own, value: { ...sighting, state: 'approved' } });
    expect(approved.status).toBe(200);
    const [entry] = await people.viewer!.call('listChanges', { projectId });
    expect(entry!.who).toBe('Reviewer');
    // their own approval they take back; what they did while they were an editor they do not
    const undo = () => people.reviewer!.send('undo', { projectId }, { id: randomUUID() });
    expect((await undo()).status).toBe(200);
    const reviewer = (await people.reviewer!.call('me')).person!.id;
    await giveRole(h.pool, projectId, reviewer, 'editor');
    const now = (await people.editor!.call('getProject', { projectId })).sightings[0]!;
    expect(
      (await send('reviewer', { ...own, revision: now.revision, value: { ...now.value, steadyFrames: 1 } })).status,
    ).toBe(200);
    await giveRole(h.pool, projectId, reviewer, 'reviewer');
    expect((await undo()).status).toBe(403);
  });
});

describe('projects', () => {
  it('are listed to those who are in them, with what they may do', async () => {
    const names = async (who: string) => (await people[who]!.call('listProjects')).map((p) => p.name);
    expect(await names('viewer')).toEqual(['Own']);
    expect(await names('admin')).toEqual(expect.arrayContaining(['Own', 'Of others']));
    const { projectId } = projects.own;
    expect((await people.viewer!.call('getProject', { projectId: projectId! })).role).toBe('viewer');
    const mine = await people.member!.call('createProject', {}, { name: 'Mine' });
    expect((await people.member!.call('getProject', { projectId: mine.id })).role).toBe('editor');
  });
  it('are nobody’s any more whose role was taken away, from the next request on', async () => {
    const guest = await signedIn(h, 'passing', 'guest');
    const { projectId } = projects.own as { projectId: string };
    const give = (role: 'viewer' | null) =>
      people.editor!.call('giveRole', { projectId }, { personId: guest.person.id, role });
    await give('viewer');
    const stream = await guest.send('events', { projectId });
    expect(stream.status).toBe(200);
    await give(null);
    // what they hear ends as well
    await expect(stream.text()).resolves.toContain('event: present');
    expect((await guest.send('getProject', { projectId })).status).toBe(404);
  });
});
