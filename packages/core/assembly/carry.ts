// A matte read where it lies on another frame, to the bit as in src/matte/carriedMatte.ts: in doubles.

/** Side of the squares, as there. */
const CELL: i32 = 8;
/** A square of which some may lie off the picture. */
const ANYWHERE: u8 = 2;

/**
 * rowBySamples: a row of `cells` squares, of each a byte that says what it reads; the places read at the corners on
 * either side of it are floats. `alpha` is where the plane's first sample would lie: only the rows that are read need
 * be there.
 */
export function carryRow(
  cells: i32,
  kinds: usize,
  placesX: usize,
  placesY: usize,
  alpha: usize,
  width: i32,
  height: i32,
  out: usize,
): void {
  const mostX = <f64>(width - 1) - 1e-6;
  const mostY = <f64>(height - 1) - 1e-6;
  for (let i: i32 = 0; i < cells; i++) {
    const kind = load<u8>(kinds + <usize>i);
    if (kind === 0) continue;
    const at = (<usize>i) << 2;
    const x0 = <f64>load<f32>(placesX + at);
    const x1 = <f64>load<f32>(placesX + at, 4);
    const y0 = <f64>load<f32>(placesY + at);
    const y1 = <f64>load<f32>(placesY + at, 4);
    const end = min<i32>((i + 1) * CELL, width);
    for (let px = i * CELL; px < end; px++) {
      const along = (<f64>px + 0.5) / <f64>CELL - <f64>i;
      let x = (1 - along) * x0 + along * x1 - 0.5;
      let y = (1 - along) * y0 + along * y1 - 0.5;
      const to = out + ((<usize>px) << 2);
      if (kind === ANYWHERE) {
        if (!(x > -0.5 && y > -0.5 && x < <f64>width - 0.5 && y < <f64>height - 0.5)) {
          store<f32>(to, -1);
          continue;
        }
        x = min<f64>(max<f64>(x, 0), mostX);
        y = min<f64>(max<f64>(y, 0), mostY);
      }
      const ix = <i32>x;
      const iy = <i32>y;
      const fx = x - <f64>ix;
      const fy = y - <f64>iy;
      const above = alpha + ((<usize>(iy * width + ix)) << 2);
      const below = above + ((<usize>width) << 2);
      const upper = (1 - fx) * <f64>load<f32>(above) + fx * <f64>load<f32>(above, 4);
      const lower = (1 - fx) * <f64>load<f32>(below) + fx * <f64>load<f32>(below, 4);
      store<f32>(to, <f32>((1 - fy) * upper + fy * lower));
    }
  }
}
