import type { Response } from 'express';

/** Kept by the browser that asked, and by nothing on the way: who may see it is asked of the server. */
export const KEPT = 'private, max-age=31536000, immutable';

/** Sends a file that never changes under its address. */
export function sendKept(response: Response, path: string, type: string): Promise<void> {
  const headers = { 'Content-Type': type, 'Cache-Control': KEPT };
  const options = { cacheControl: false, dotfiles: 'allow', headers } as const;
  return new Promise((resolve, reject) =>
    response.sendFile(path, options, (error) => (error && !response.headersSent ? reject(error) : resolve())),
  );
}
export const sendPicture = (response: Response, path: string): Promise<void> => sendKept(response, path, 'image/png');
