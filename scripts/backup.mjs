// `npm run backup -- FOLDER` and `npm run restore -- FOLDER`.
import { resolve } from 'node:path';
import { runOnInstallation } from './onInstallation.mjs';
import { fail } from './plain.mjs';

const [what, folder] = process.argv.slice(2);
if (!folder) fail(`Name a folder: npm run ${what} -- FOLDER`);
// npm runs scripts in the project's folder; the folder named is as seen from where it was called
await runOnInstallation('backup/main.ts', [what, resolve(process.env.INIT_CWD ?? '.', folder)]);
