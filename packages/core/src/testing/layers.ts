/** What every layer has, as plain as can be. */
export const PLAIN_LAYER = { id: 'a', name: 'A', on: true, mode: 'add', invert: false, strength: 1 } as const;
