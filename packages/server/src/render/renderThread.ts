// What a render thread runs: it gives way to the server before it loads anything.
import { giveWay } from '../giveWay.ts';

giveWay();
const { answer } = await import('./renderWorker.ts');
export default answer;
