const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'];

/** A number of bytes as it is said: three digits and a unit, by powers of ten as disks are sold. */
export function bytesText(bytes: number): string {
  const step = bytes < 1000 ? 0 : Math.min(Math.floor(Math.log10(bytes) / 3), UNITS.length - 1);
  // 999 600 bytes are a megabyte, not 1000 kB
  const rounded = Number((bytes / 1000 ** step).toPrecision(3));
  if (rounded < 1000 || step === UNITS.length - 1) return `${rounded} ${UNITS[step]}`;
  return `1 ${UNITS[step + 1]}`;
}
