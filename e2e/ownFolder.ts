import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from '@playwright/test';

/**
 * A folder of a file's own for what its journeys write: made before them, not where the file is only read to see what
 * is in it, and gone after them. Gives the path of what is in it, or its own.
 */
export function ownFolder(): (...names: string[]) => string {
  let folder = '';
  test.beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'mellow-journey-'))));
  test.afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return (...names) => join(folder, ...names);
}
