// Runs the TypeScript of the thread that reads large bodies whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
const { default: answer } = await import('./largeBodyWorker.ts');
export default answer;
