// Runs the work thread's TypeScript whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
await import('./workThread.ts');
