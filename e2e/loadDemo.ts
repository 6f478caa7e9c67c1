import { startServer } from './server.ts';

/**
 * Once before all journeys: the demo is loaded, its proxies are made and its pieces measured. Each journey's server
 * begins with a copy.
 */
export default async function loadDemo(): Promise<() => Promise<void>> {
  const server = await startServer();
  await server.rest();
  await server.stop();
  process.env.MELLOW_LOADED_DEMO = JSON.stringify({ database: server.database, media: server.media });
  return server.close;
}
