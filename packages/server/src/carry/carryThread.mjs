// Runs the carrying thread's TypeScript whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
const { default: answer } = await import('./carryWorker.ts');
export default answer;
