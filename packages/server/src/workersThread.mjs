// Runs the workers' TypeScript whether or not this process was started through tsx.
import { register } from 'tsx/esm/api';

register();
await import('./workersThread.ts');
