import { Feed } from '../inhand/feed.ts';

/** The place in the picture that is pointed at, in pixels of the shot. */
export const placeFeed = new Feed<{ x: number; y: number } | undefined>(undefined);
/** Screen pixels per pixel of the shot; 0 before a picture. */
export const zoomFeed = new Feed(0);
