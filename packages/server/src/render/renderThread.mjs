// Runs the render thread's TypeScript whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
const { default: answer } = await import('./renderThread.ts');
export default answer;
