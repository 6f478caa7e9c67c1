import { expect, it } from 'vitest';
import type { KeptSettings } from '@mellow/contract';
import { keptSettings } from './keptSettings.ts';

const settings = { preset: 'vc3', withLook: true, burnIn: false, handles: 8, namePattern: '{shot}_v{n}' } as const;
const [client, online] = ['Client', 'Online'].map((name) => ({ ...settings, name, toFolder: false }));
/** A server that holds some, and a browser that still does. */
function between(onServer: KeptSettings[], inBrowser: string | null) {
  let [held, text] = [onServer, inBrowser];
  const storage = { getItem: () => text, removeItem: () => void (text = null) };
  const send = (async (_url: string, init?: RequestInit) => {
    if (init?.method === 'POST') held = [...held, JSON.parse(init.body as string) as KeptSettings];
    return new Response(JSON.stringify(held));
  }) as unknown as typeof fetch;
  return { ask: () => keptSettings(storage, send), left: () => text };
}

it('what the browser kept by itself moves to the server, once', async () => {
  // as it was stored before there was a render folder
  const own = between([client!], JSON.stringify([{ ...settings, name: 'Online' }]));
  expect((await own.ask()).data).toEqual([client, online]);
  expect(own.left()).toBeNull();
  expect((await own.ask()).data).toEqual([client, online]);
});
it('a name that the server has is left as it is there', async () => {
  const own = between([client!], JSON.stringify([{ ...client!, handles: 99 }]));
  expect((await own.ask()).data).toEqual([client]);
});
it('what is broken, or of a format there is no more, is passed by', async () => {
  for (const text of ['', 'no json', '{}', JSON.stringify([{ ...client!, preset: 'betacam' }])])
    expect((await between([online!], text).ask()).data).toEqual([online]);
});
it('stays in the browser while the server cannot be reached', async () => {
  let removed = 0;
  const storage = { getItem: () => JSON.stringify([client]), removeItem: () => void removed++ };
  const away = (async () => Promise.reject(new TypeError('no'))) as unknown as typeof fetch;
  expect((await keptSettings(storage, away)).error?.status).toBe('away');
  expect(removed).toBe(0);
});
