/** How many workers a page has: the lead and others, as the machine's processors allow. */
export const workerCount = (): number => 1 + Math.max(Math.min(navigator.hardwareConcurrency - 1, 3), 1);
