// How every browser run here starts Debian's Chromium.
import { words } from '../packages/server/src/media/words.ts';

export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    ...words('--headless --no-sandbox --disable-gpu --disable-quic --no-first-run'),
    ...words('--disable-background-networking --disable-component-update --disable-sync'),
  ],
};
