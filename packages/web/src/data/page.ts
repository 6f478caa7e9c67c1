/** What this page calls itself: towards the server, and towards other pages of the same browser. */
export const pageId: string = crypto.randomUUID();
