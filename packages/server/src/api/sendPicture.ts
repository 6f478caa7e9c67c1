import type { Response } from 'express';

const AS_PICTURE = {
  immutable: true,
  maxAge: '365d',
  dotfiles: 'allow',
  headers: { 'Content-Type': 'image/png' },
} as const;

/** Sends a picture that never changes under its address. */
export const sendPicture = (response: Response, path: string): Promise<void> =>
  new Promise((resolve, reject) =>
    response.sendFile(path, AS_PICTURE, (error) => (error && !response.headersSent ? reject(error) : resolve())),
  );
