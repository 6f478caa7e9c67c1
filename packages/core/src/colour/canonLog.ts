/** A logarithm that is mirrored at black: below it light goes on as far under 0 as above it. */
interface MirroredLog {
  /** The code of no light. */
  black: number;
  /** Codes a decade. */
  decade: number;
  /** How fast it begins to rise. */
  steepness: number;
}
const lightAbove = (code: number, { black, decade, steepness }: MirroredLog): number =>
  (10 ** ((code - black) / decade) - 1) / steepness;
const codeAbove = (light: number, { black, decade, steepness }: MirroredLog): number =>
  black + decade * Math.log10(1 + steepness * light);

/** The makers' curves are over light of which a white card reflects 0.9. */
const CARD = 0.9;

const LOG_2: MirroredLog = { black: 0.092864125, decade: 0.24136077, steepness: 87.099375 };
/** Canon Log 2 over scene reflectance: see encodings/canonLog2. */
export const CANON_LOG_2 = {
  linearFromCode: (code: number): number =>
    CARD * (code < LOG_2.black ? -lightAbove(2 * LOG_2.black - code, LOG_2) : lightAbove(code, LOG_2)),
  codeFromLinear: (light: number): number =>
    light < 0 ? 2 * LOG_2.black - codeAbove(-light / CARD, LOG_2) : codeAbove(light / CARD, LOG_2),
};

const LOG_3: MirroredLog = { black: 0.12240537, decade: 0.36726845, steepness: 14.98325 };
const LOG_3_BELOW: MirroredLog = { ...LOG_3, black: 0.12783901 };
/** Its straight part: code = slope · light + black, as far as these codes. */
const STRAIGHT = { from: 0.097465473, to: 0.15277891, slope: 1.9754798, black: 0.12512219 };
const straightLight = (code: number): number => (code - STRAIGHT.black) / STRAIGHT.slope;
const [STRAIGHT_FROM, STRAIGHT_TO] = [straightLight(STRAIGHT.from), straightLight(STRAIGHT.to)];
/** Canon Log 3 over scene reflectance: see encodings/canonLog3. */
export const CANON_LOG_3 = {
  linearFromCode(code: number): number {
    if (code < STRAIGHT.from) return -CARD * lightAbove(2 * LOG_3_BELOW.black - code, LOG_3_BELOW);
    return CARD * (code <= STRAIGHT.to ? straightLight(code) : lightAbove(code, LOG_3));
  },
  codeFromLinear(light: number): number {
    const own = light / CARD;
    if (own < STRAIGHT_FROM) return 2 * LOG_3_BELOW.black - codeAbove(-own, LOG_3_BELOW);
    return own <= STRAIGHT_TO ? STRAIGHT.slope * own + STRAIGHT.black : codeAbove(own, LOG_3);
  },
};
