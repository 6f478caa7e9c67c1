import type { Response } from 'express';

/** Kept by the browser that asked, and by nothing on the way: who may see it is asked of the server. */
export const KEPT = 'private, max-age=31536000, immutable';

/**
 * Sends a file by `send`, one of Express' ways. Rejects where nothing of it can be sent. One that cannot be read to its
 * end is broken off: whoever asked would wait for the rest for ever.
 */
export const sendFile = (response: Response, send: (done: (error?: Error) => void) => void): Promise<void> =>
  new Promise((resolve, reject) =>
    send((error) => {
      if (error && !response.headersSent) return reject(error);
      if (error) response.destroy(error);
      resolve();
    }),
  );

/** Sends a file that never changes under its address; `type` left out: as its name says. */
export function sendKept(response: Response, path: string, type?: string): Promise<void> {
  const headers = { ...(type && { 'Content-Type': type }), 'Cache-Control': KEPT };
  return sendFile(response, (done) =>
    response.sendFile(path, { cacheControl: false, dotfiles: 'allow', headers }, done),
  );
}
export const sendPicture = (response: Response, path: string): Promise<void> => sendKept(response, path, 'image/png');
