// Another machine, as far as processes can tell: a network of its own, joined to this one by a cable that can be
// pulled, a host name, and processes that see no others. Needs Linux and its root.
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer, connect, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import { words } from '../media/words.ts';

const ROOT = join(import.meta.dirname, '../../../..');

/** May this process make networks? */
export function canMakeMachines(): boolean {
  try {
    execFileSync('unshare', words('--net --uts --pid --fork true'), { stdio: 'ignore' });
    execFileSync('ip', ['netns', 'list'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

export interface Machine {
  /** Starts a worker on it; resolves when it says that it stands ready. */
  startWorker: () => Promise<void>;
  /** SIGKILL to all that runs on it. */
  kill: () => Promise<void>;
  /** Pulls the cable, or puts it in again. */
  cable: (isIn: boolean) => void;
  /** Kills it and takes it away. */
  remove: () => Promise<void>;
}

let made = 0;
/** A machine that reaches the database at `databaseUrl` over its cable, and sees the media folder as it is here. */
export async function aMachine(name: string, databaseUrl: string, media: string): Promise<Machine> {
  const n = made++;
  const id = `${process.pid % 100_000}${n}`;
  const [space, here, there] = [`mh-${id}`, `mh${id}`, `mw${id}`];
  // a network of four addresses: of each process and machine another
  const at = (last: number): string => `10.${200 + (n % 50)}.${process.pid % 256}.${last}`;
  const ip = (...args: string[]): void => void execFileSync('ip', args);
  ip('netns', 'add', space);
  ip('link', 'add', here, 'type', 'veth', 'peer', 'name', there, 'netns', space);
  ip('addr', 'add', `${at(1)}/30`, 'dev', here);
  ip('link', 'set', here, 'up');
  ip('-n', space, 'addr', 'add', `${at(2)}/30`, 'dev', there);
  ip('-n', space, 'link', 'set', there, 'up');
  // the database listens on loopback only
  const from = new URL(databaseUrl);
  const relay = createServer((socket) => {
    const onward = connect(Number(from.port), from.hostname);
    socket.pipe(onward).pipe(socket);
    for (const [one, other] of [
      [socket, onward],
      [onward, socket],
    ] as const)
      one.on('error', () => other.destroy()).on('close', () => other.destroy());
  }).listen(0, at(1));
  await once(relay, 'listening');
  const url = new URL(databaseUrl);
  url.host = `${at(1)}:${(relay.address() as AddressInfo).port}`;
  let running: ChildProcess | undefined;
  const kill = async (): Promise<void> => {
    if (!running) return;
    const closed = once(running, 'close');
    running.kill('SIGKILL');
    await closed;
    running = undefined;
  };
  return {
    async startWorker() {
      const alone = words(`unshare --uts --pid --fork --mount-proc --kill-child sh -c`);
      const worker = `hostname ${name}; exec "$0" --import tsx packages/server/src/main.ts --worker`;
      running = spawn('ip', ['netns', 'exec', space, ...alone, worker, process.execPath], {
        cwd: ROOT,
        env: { ...process.env, DATABASE_URL: url.href, MELLOW_MEDIA: media, MELLOW_LOGS: join(media, 'logs', name) },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      for await (const text of running.stdout!) if (String(text).includes('READY')) return;
      throw new Error('the worker ended before it stood ready');
    },
    kill,
    cable: (isIn) => ip('link', 'set', here, isIn ? 'up' : 'down'),
    async remove() {
      await kill();
      relay.close();
      ip('netns', 'delete', space);
    },
  };
}
