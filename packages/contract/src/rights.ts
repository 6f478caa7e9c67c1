// What each operation needs, where people sign in: the server asks this table before it does anything.
import type { Role } from './people.ts';
import type { RouteName } from './routes.ts';

/**
 * `anyone`: before one has signed in. `link`: the secret in the address is the right. `person`: any account.
 * `contributor`: a member, or a guest who is an editor somewhere. `member`, `admin`: what one is in the house, or more.
 * A role: in the project that the address names, or that what it names belongs to.
 */
export type Need = 'anyone' | 'link' | 'person' | 'contributor' | 'member' | 'admin' | Role;

export const RIGHTS: Record<RouteName, Need> = {
  health: 'anyone',
  live: 'anyone',
  ready: 'anyone',
  // or the token that a monitor is given
  metrics: 'admin',
  openapi: 'person',
  me: 'anyone',
  signIn: 'anyone',
  signOut: 'anyone',
  signInElsewhere: 'anyone',
  signedInElsewhere: 'anyone',
  findInvitation: 'link',
  acceptInvitation: 'link',
  listPeople: 'member',
  addPerson: 'admin',
  changePerson: 'admin',
  invite: 'admin',
  listMembers: 'viewer',
  giveRole: 'editor',
  /** Only one's own are listed. */
  listProjects: 'person',
  createProject: 'member',
  // the copy is the copier's own
  duplicateProject: 'editor',
  saveArchive: 'editor',
  openArchive: 'member',
  openSentArchive: 'member',
  setProjectState: 'editor',
  // of the house: guests remove only what can be brought back
  deleteProject: 'editor',
  /** Only of what one may see. */
  space: 'member',
  getProject: 'viewer',
  // a reviewer may change nothing but how far a sighting is: server/people/editRights sees to that
  change: 'reviewer',
  listChanges: 'viewer',
  undo: 'reviewer',
  redo: 'reviewer',
  here: 'viewer',
  events: 'viewer',
  /** Only one's own are there. */
  listUploads: 'contributor',
  createUpload: 'contributor',
  uploadOffset: 'contributor',
  continueUpload: 'contributor',
  dropUpload: 'contributor',
  importUploads: 'editor',
  uploadMedia: 'editor',
  uploadPlate: 'editor',
  importFromFolder: 'editor',
  uploadCube: 'editor',
  // its address is the hash of what it holds: who knows it has had the table
  cube: 'person',
  listFolder: 'member',
  footageFaults: 'viewer',
  readMedia: 'editor',
  footageCuts: 'viewer',
  frame: 'viewer',
  listTracks: 'viewer',
  track: 'editor',
  carry: 'editor',
  carriedFrame: 'viewer',
  listMeasurements: 'viewer',
  listJobs: 'viewer',
  cancelJob: 'editor',
  retryJob: 'editor',
  listDeliveries: 'viewer',
  render: 'editor',
  deleteDelivery: 'editor',
  download: 'viewer',
  deliveryStill: 'viewer',
  listKeptSettings: 'person',
  keepSettings: 'member',
  dropSettings: 'member',
  listReviews: 'reviewer',
  sendReview: 'editor',
  withdrawReview: 'editor',
  listVerdicts: 'viewer',
  listNotes: 'viewer',
  addNote: 'reviewer',
  settleNote: 'reviewer',
  openReview: 'link',
  reviewFile: 'link',
  addReviewNote: 'link',
  addVerdict: 'link',
};
