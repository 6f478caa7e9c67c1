// OpenCV's JavaScript build, which tests compare with. The module is a thenable that never settles: it must be neither
// awaited nor imported by anything that awaits it. It calls back when its WebAssembly is up.
import { createRequire } from 'node:module';
import type OpenCv from '@techstark/opencv-js';

export const cv = createRequire(import.meta.url)('@techstark/opencv-js') as typeof OpenCv & {
  onRuntimeInitialized?: () => void;
};

/** Resolves, with nothing, once OpenCV can be called. */
export const cvReady = (): Promise<void> =>
  new Promise((resolve) => {
    // types promise the classes that are there only once it is up
    if ((cv as Partial<typeof cv>).Mat) resolve();
    else cv.onRuntimeInitialized = resolve;
  });
