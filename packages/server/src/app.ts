import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express } from 'express';
import helmet from 'helmet';
import { archiveRoutes } from './api/archives.ts';
import { keepingRoutes } from './api/keeping.ts';
import { mediaRoutes } from './api/media.ts';
import { openMetrics } from './api/metrics.ts';
import { withoutSecret } from './api/requests.ts';
import { healthRoutes } from './api/health.ts';
import { openApi } from './api/openapi.ts';
import { problemOf } from './api/problem.ts';
import { Refused } from './errors.ts';
import { projectRoutes } from './api/projects.ts';
import { reviewRoutes } from './api/reviews.ts';
import { peopleRoutes } from './api/people.ts';
import { registerOn } from './api/route.ts';
import { sendingRoutes } from './api/sending.ts';
import { carryRoutes } from './api/carrying.ts';
import { trackRoutes } from './api/tracks.ts';
import { workRoutes } from './api/work.ts';
import type { AppServices } from './services.ts';

export const VERSION = '0.1.0';

/** The HTTP application: the API, and the built web app from `webRoot` when given. */
export function createApp(services: AppServices, webRoot?: string): Express {
  const app = express();
  app.disable('x-powered-by');
  if (services.requestLog) app.use('/api', services.requestLog);
  // shared memory between the page and its workers needs cross-origin isolation
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          // the core's kernels are WebAssembly
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'worker-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'upgrade-insecure-requests': null,
        },
      },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      strictTransportSecurity: false,
    }),
  );
  app.set('trust proxy', services.proxies ?? false);
  app.use(onlyFromHere(services.url));
  if (services.signIn) app.use('/api', ...services.signIn.identify);
  const metrics = openMetrics(services);
  const register = registerOn(app, services, metrics);
  register('metrics', async ({ response }) => {
    response.type(metrics.registry.contentType).send(await metrics.registry.metrics());
    return undefined;
  });
  healthRoutes(register, services, VERSION);
  register('openapi', async () => openApi(VERSION));
  peopleRoutes(register, services);
  projectRoutes(register, services);
  mediaRoutes(register, services);
  sendingRoutes(register, services);
  trackRoutes(register, services);
  carryRoutes(register, services);
  workRoutes(register, services);
  reviewRoutes(register, services);
  keepingRoutes(register, services);
  archiveRoutes(register, services, VERSION);
  app.use('/api', (request) => {
    throw new Refused('not-found', `There is no ${request.method} ${request.originalUrl}.`);
  });
  if (webRoot && existsSync(webRoot)) {
    app.use(
      '/assets',
      express.static(join(webRoot, 'assets'), {
        immutable: true,
        maxAge: '365d',
        dotfiles: 'allow',
        fallthrough: false,
      }),
    );
    app.use(express.static(webRoot, { dotfiles: 'allow' }));
    app.get('/{*path}', (_request, response) => response.sendFile(join(webRoot, 'index.html'), { dotfiles: 'allow' }));
  }
  app.use((request) => {
    throw new Refused('not-found', `There is no ${request.method} ${request.path}.`);
  });
  app.use(sendProblem(services));
  return app;
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];
/**
 * Only requests to this installation's own address are answered, and edits must come from our own pages: a page of
 * another site in the same browser may not send them, whatever cookies the browser adds. Browsers name the page's
 * origin with every request that is no plain reading (Fetch standard, “Origin” header).
 */
const onlyFromHere =
  (url: URL): express.RequestHandler =>
  (request, _response, next) => {
    const host = request.get('host');
    const name = host?.replace(/:\d+$/, '');
    if (name && name !== url.hostname && !LOOPBACK.includes(name))
      throw new Refused('invalid-input', `This server answers to its own address only, not to “${name}”.`);
    if (request.method === 'GET' || request.method === 'HEAD') return next();
    const [site, origin] = [request.get('sec-fetch-site'), request.get('origin')];
    const isOurs = origin === undefined || (URL.canParse(origin) && new URL(origin).host === host);
    if (!isOurs || (site && !['same-origin', 'none'].includes(site)))
      throw new Refused('invalid-input', 'Edits are taken from Mellow Hue’s own pages only.');
    next();
  };

function sendProblem({ log }: AppServices): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = problemOf(error);
    const { id } = request as { id?: unknown };
    if (problem.code === 'internal')
      log.error(
        {
          error: error instanceof Error ? { message: error.message, stack: error.stack } : error,
          url: withoutSecret(request.url),
          requestId: id,
        },
        'request failed',
      );
    const after = error instanceof Refused ? error.retryAfterSeconds : undefined;
    if (after !== undefined) response.set('Retry-After', String(after));
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
