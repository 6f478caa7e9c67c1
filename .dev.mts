import { startServer } from './e2e/server.ts';
import { writeFileSync } from 'node:fs';
const s = await startServer({ demo: true }); writeFileSync('/tmp/devurl', s.url); console.log(s.url); setInterval(()=>{},1e6);
