// Runs the render thread's TypeScript whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
const { giveWay } = await import('../giveWay.ts');
giveWay();
const { answer } = await import('./renderWorker.ts');
export default answer;
