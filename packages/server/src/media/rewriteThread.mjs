// Runs the TypeScript of the thread that rewrites footage whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
const { default: answer } = await import('./rewriteWorker.ts');
export default answer;
