/** How much may be brought in, and how long things are kept; undefined: as much, and as long, as there is room. */
export interface KeepingRules {
  /** Bytes of footage in one project. */
  projectBytes?: number | undefined;
  /** Bytes that one person may have on their way, or here and in no project. */
  uploadBytes?: number | undefined;
  /** Days until a removed project is deleted. */
  removedDays?: number | undefined;
  /** Days until a render is deleted. */
  rendersDays?: number | undefined;
}

const LIMITS = {
  projectBytes: ['MELLOW_PROJECT_GB', 1e9],
  uploadBytes: ['MELLOW_UPLOADS_GB', 1e9],
  removedDays: ['MELLOW_KEEP_REMOVED_DAYS', 1],
  rendersDays: ['MELLOW_KEEP_RENDERS_DAYS', 1],
} as const;

/** Reads the environment; throws a plain sentence for what is no number. */
export function readKeepingRules(env: NodeJS.ProcessEnv): KeepingRules {
  const rules: KeepingRules = {};
  for (const [rule, [name, unit]] of Object.entries(LIMITS)) {
    const given = env[name];
    if (given === undefined || given === '') continue;
    const n = Number(given);
    if (!(n > 0)) throw new Error(`${name} is “${given}”: give a number above 0, or leave it out.`);
    rules[rule as keyof KeepingRules] = unit === 1 ? n : Math.round(n * unit);
  }
  return rules;
}
