import type { Response } from 'express';

/** Sends a file that never changes under its address. */
export function sendKept(response: Response, path: string, type: string): Promise<void> {
  const options = { immutable: true, maxAge: '365d', dotfiles: 'allow', headers: { 'Content-Type': type } } as const;
  return new Promise((resolve, reject) =>
    response.sendFile(path, options, (error) => (error && !response.headersSent ? reject(error) : resolve())),
  );
}
export const sendPicture = (response: Response, path: string): Promise<void> => sendKept(response, path, 'image/png');
