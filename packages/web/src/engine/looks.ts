// The looks a worker holds: a table is fetched and read once.
import type { Look, LookTable } from '@mellow/core';
import { LRUCache } from 'lru-cache';
import type { LookRef } from './frameProtocol.ts';

const MOST_TABLES = 4;

async function fetchTable(url: string): Promise<LookTable> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`The look’s table could not be loaded (${response.status}).`);
  // most work is without a table: its reader is no part of the way to the first picture
  const { readTable } = await import('@mellow/core/readTable');
  return readTable(await response.text());
}

export class Looks {
  readonly #tables: LRUCache<string, LookTable>;
  constructor(fetched = fetchTable) {
    this.#tables = new LRUCache({ max: MOST_TABLES, fetchMethod: (url) => fetched(url) });
  }
  async table(url: string | undefined): Promise<LookTable | undefined> {
    return url === undefined ? undefined : this.#tables.fetch(url);
  }
  async look({ tableUrl, ...numbers }: LookRef): Promise<Look> {
    return { ...numbers, table: await this.table(tableUrl) };
  }
}
