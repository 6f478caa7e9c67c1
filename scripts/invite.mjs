// `npm run invite -- LOGIN "NAME" [admin | member | guest]`: an account, and the link by which somebody comes in.
import { runOnInstallation } from './onInstallation.mjs';

await runOnInstallation('people/main.ts', process.argv.slice(2));
