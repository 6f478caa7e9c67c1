// The looks a worker holds: a table is fetched and read once.
import { readCube, type Cube, type Look } from '@mellow/core';
import { LRUCache } from 'lru-cache';
import type { LookRef } from './frameProtocol.ts';

const MOST_TABLES = 4;

async function fetchCube(url: string): Promise<Cube> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`The look’s table could not be loaded (${response.status}).`);
  return readCube(await response.text());
}

export class Looks {
  readonly #cubes: LRUCache<string, Cube>;
  constructor(fetched = fetchCube) {
    this.#cubes = new LRUCache({ max: MOST_TABLES, fetchMethod: (url) => fetched(url) });
  }
  async look({ cdl, cubeUrl }: LookRef): Promise<Look> {
    return { cdl, cube: cubeUrl === undefined ? undefined : await this.#cubes.fetch(cubeUrl) };
  }
}
