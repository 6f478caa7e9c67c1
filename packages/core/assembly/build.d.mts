export function compiled(): Promise<string[]>;
