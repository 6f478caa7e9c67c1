// Who may do what, where people sign in. Without a sign-in (on loopback) everything is one person's.
import { z } from 'zod';
import { PersonId } from './ids.ts';
import { Name } from './text.ts';

/**
 * What somebody is in the house: an *admin* keeps the accounts and may do everything in every project; a *member* makes
 * projects and reads the media folder; a *guest* sees only the projects they were given.
 */
export const PersonKind = z.enum(['admin', 'member', 'guest']);
export type PersonKind = z.infer<typeof PersonKind>;

/** What somebody may do in one project: an editor all, a reviewer look, write notes and approve, a viewer look. */
export const Role = z.enum(['viewer', 'reviewer', 'editor']);
export type Role = z.infer<typeof Role>;
/** Does a role hold the rights of another? */
export const includesRole = (role: Role, needed: Role): boolean =>
  Role.options.indexOf(role) >= Role.options.indexOf(needed);

/** What somebody signs in with: an e-mail address or a short name; case does not matter. */
export const Login = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[^\s@/]+(@[^\s@/]+)?$/, 'must be a short name or an e-mail address')
  .max(120);
/** Length is what makes a password hard to guess (NIST SP 800-63B, 5.1.1.2): no rules of what it must hold. */
export const Password = z.string().min(10, 'must have ten characters or more').max(200);

export const Person = z.object({
  id: PersonId,
  login: z.string(),
  name: Name,
  kind: PersonKind,
  isActive: z.boolean(),
  /** Has a way to sign in: a password, or an account with the house's provider. */
  isReady: z.boolean(),
});
export type Person = z.infer<typeof Person>;
export const NewPerson = z.object({ login: Login, name: Name, kind: PersonKind });
export type NewPerson = z.infer<typeof NewPerson>;
/** What an admin may change about somebody. */
export const PersonChange = NewPerson.pick({ name: true, kind: true }).extend({ isActive: z.boolean() }).partial();
export type PersonChange = z.infer<typeof PersonChange>;
/** A way in for somebody who has no password yet, or has lost it: good once, for a few days. */
export const Invitation = z.object({ person: Person, token: z.string(), expiresAt: z.iso.datetime() });
export type Invitation = z.infer<typeof Invitation>;

/** Who is asking. Null where nobody signs in, or nobody has. */
export const Me = z.object({
  /** Must one sign in here? */
  isAsked: z.boolean(),
  person: Person.nullable(),
  /** The provider that one may sign in with, by its name. */
  provider: z.string().nullable(),
});
export type Me = z.infer<typeof Me>;
export const Credentials = z.object({ login: Login, password: z.string().max(200) });
export type Credentials = z.infer<typeof Credentials>;

/** Somebody who has a role in a project. */
export const Membership = z.object({ person: Person.pick({ id: true, name: true, login: true }), role: Role });
export type Membership = z.infer<typeof Membership>;
/** Null: none any more. */
export const GivenRole = z.object({ personId: PersonId, role: Role.nullable() });
export type GivenRole = z.infer<typeof GivenRole>;
