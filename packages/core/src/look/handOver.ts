// On its own, for what writes recipes as files: nothing of it is on the way to a picture.
export { clfText } from './clf.ts';
export { cubeText } from './cube.ts';
export { recipeCdl } from './recipeCdl.ts';
export { beyondTable, recipeCube } from './recipeCube.ts';
