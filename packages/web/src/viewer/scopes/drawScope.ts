// Draws a scope with its scales and marks.
import {
  BAR_TARGETS,
  codesFromLinear709,
  FIELD_REACH,
  linear709FromCodes,
  linear709FromOklab,
  oklabFromOklch,
  scopeSpots,
  srgbCodeFromLinear,
  type Encoding,
  type Scope,
  type ScopeKind,
  type ScopeSpot,
} from '@mellow/core';

type Three = [number, number, number];
/** What is marked on a scope: the required colour, and the pixel under the pointer. */
export interface ScopeMarks {
  required?: Three | undefined;
  probe?: { codes: Three; column: number } | undefined;
}
interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
const PAD = { left: 30, top: 10, right: 10, bottom: 18 };
const INK = '#b4b4b4';
const FAINT = '#4a4a4a';
const [RED, GREEN, BLUE, WHITE] = ['#ff6b6b', '#66d17a', '#7aa2ff', '#e6e6e6'];
const TRACE_COLOURS: Record<ScopeKind, readonly string[]> = {
  vectorscope: [WHITE],
  'hue and chroma': [WHITE],
  waveform: [WHITE],
  parade: [RED, GREEN, BLUE],
  histogram: [RED, GREEN, BLUE, WHITE],
};
const isRound = (kind: ScopeKind): boolean => kind === 'vectorscope' || kind === 'hue and chroma';

/** Where each trace is drawn. */
function boxesOf({ kind, traces }: Scope, width: number, height: number): Box[] {
  const [w, h] = [width - PAD.left - PAD.right, height - PAD.top - PAD.bottom];
  if (isRound(kind)) {
    const side = Math.min(w, h);
    return [{ x: PAD.left + (w - side) / 2, y: PAD.top + (h - side) / 2, w: side, h: side }];
  }
  if (kind !== 'parade') return traces.map(() => ({ x: PAD.left, y: PAD.top, w, h }));
  const each = (w - 12) / 3;
  return [0, 1, 2].map((k) => ({ x: PAD.left + k * (each + 6), y: PAD.top, w: each, h }));
}

/** The counts as a picture: logarithmic, so that few pixels are seen beside many. */
function cloud({ width, height }: Scope, trace: Float32Array, ink: string | ((x: number, y: number) => Three)) {
  const most = trace.reduce((a, b) => Math.max(a, b), 0);
  const rgba = new Uint8ClampedArray(width * height * 4);
  const one = typeof ink === 'string' ? ([1, 3, 5].map((i) => parseInt(ink.slice(i, i + 2), 16)) as Three) : undefined;
  trace.forEach((n, i) => {
    if (n === 0) return;
    const colour = one ?? (ink as (x: number, y: number) => Three)((i % width) / width, Math.floor(i / width) / height);
    rgba.set([...colour, 60 + 195 * Math.min(Math.log1p(n) / Math.log1p(most), 1)], 4 * i);
  });
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas;
}
const screen = (linear: readonly number[]): Three => linear.map((v) => 255 * srgbCodeFromLinear(v)) as Three;
/** The hue of each place, of one lightness, so that a cloud can be read without its labels. */
const INKS: Partial<Record<ScopeKind, (x: number, y: number) => Three>> = {
  vectorscope: (x, y) => {
    const [cb, cr] = [x - 0.5, 0.5 - y];
    const Y = 0.6;
    const [r, b] = [Y + 1.5748 * cr, Y + 1.8556 * cb];
    return screen(linear709FromCodes('rec709', [r, (Y - 0.2126 * r - 0.0722 * b) / 0.7152, b]));
  },
  'hue and chroma': (x, y) =>
    screen(linear709FromOklab({ L: 0.72, a: (2 * x - 1) * FIELD_REACH, b: (1 - 2 * y) * FIELD_REACH })),
};

function scaleOf(c: CanvasRenderingContext2D, kind: ScopeKind, encoding: Encoding, boxes: readonly Box[]): void {
  c.strokeStyle = FAINT;
  c.fillStyle = INK;
  c.font = '10px "JetBrains Mono Variable", monospace';
  const [box] = boxes;
  if (kind === 'vectorscope') return vectorScale(c, encoding, box!);
  if (kind === 'hue and chroma') return hueScale(c, box!);
  const isAcross = kind === 'histogram';
  for (const percent of [0, 25, 50, 75, 100]) {
    const v = percent / 100;
    c.beginPath();
    if (isAcross) {
      const x = box!.x + v * box!.w;
      c.moveTo(x, box!.y);
      c.lineTo(x, box!.y + box!.h);
      c.textAlign = 'center';
      c.fillText(`${percent}`, x, box!.y + box!.h + 12);
    } else {
      const y = box!.y + (1 - v) * box!.h;
      c.moveTo(box!.x, y);
      c.lineTo(boxes.at(-1)!.x + boxes.at(-1)!.w, y);
      c.textAlign = 'right';
      c.fillText(`${percent}`, box!.x - 4, y + 3);
    }
    c.stroke();
  }
  c.textAlign = 'left';
  if (kind === 'parade')
    ['R', 'G', 'B'].forEach((name, k) => c.fillText(name, boxes[k]!.x + 2, boxes[k]!.y + boxes[k]!.h + 12));
  if (kind === 'waveform') c.fillText('% of luma code', box!.x, box!.y + box!.h + 12);
}
const place = (box: Box, { x, y }: ScopeSpot) => [box.x + x * box.w, box.y + y * box.h] as const;

/** 75 % bars as boxes with their names, rings of saturation, the axes of both colour differences. */
function vectorScale(c: CanvasRenderingContext2D, encoding: Encoding, box: Box): void {
  const [cx, cy] = place(box, { x: 0.5, y: 0.5 });
  for (const r of [0.25, 0.5]) {
    c.beginPath();
    c.arc(cx, cy, r * box.w, 0, 2 * Math.PI);
    c.stroke();
  }
  c.beginPath();
  c.moveTo(box.x, cy);
  c.lineTo(box.x + box.w, cy);
  c.moveTo(cx, box.y);
  c.lineTo(cx, box.y + box.h);
  c.stroke();
  c.textAlign = 'left';
  c.fillText('Cb', box.x + box.w - 14, cy - 3);
  c.fillText('Cr', cx + 3, box.y + 9);
  c.strokeStyle = INK;
  for (const { name, codes } of BAR_TARGETS) {
    const [x, y] = place(box, scopeSpots('vectorscope', codes, encoding, 0)[0]!);
    c.strokeRect(x - 5, y - 5, 10, 10);
    c.fillText(name, x + 7, y + 3);
  }
}
/** Rings of chroma and hues every 60°. */
function hueScale(c: CanvasRenderingContext2D, box: Box): void {
  const [cx, cy] = place(box, { x: 0.5, y: 0.5 });
  c.textAlign = 'left';
  for (const chroma of [0.1, 0.2, 0.3]) {
    c.beginPath();
    c.arc(cx, cy, (chroma / FIELD_REACH / 2) * box.w, 0, 2 * Math.PI);
    c.stroke();
    c.fillText(chroma.toFixed(1), cx + (chroma / FIELD_REACH / 2) * box.w + 2, cy - 2);
  }
  for (let deg = 0; deg < 360; deg += 60) {
    const { a, b } = oklabFromOklch({ L: 0, C: FIELD_REACH, hDeg: deg });
    const [x, y] = place(box, { x: 0.5 + a / FIELD_REACH / 2, y: 0.5 - b / FIELD_REACH / 2 });
    c.beginPath();
    c.moveTo(cx, cy);
    c.lineTo(x, y);
    c.stroke();
    c.textAlign = 'center';
    c.fillText(`${deg}°`, cx + (x - cx) * 0.9, cy + (y - cy) * 0.9 + 3);
  }
}

/** A mark: where both ways count a ring or a cross, else a line at its level. */
function mark(c: CanvasRenderingContext2D, kind: ScopeKind, boxes: readonly Box[], spots: ScopeSpot[], dash: number[]) {
  c.setLineDash(dash);
  c.lineWidth = 1.5;
  spots.forEach((spot, k) => {
    const box = boxes[Math.min(k, boxes.length - 1)]!;
    const [x, y] = place(box, spot);
    c.strokeStyle = TRACE_COLOURS[kind][k]!;
    c.beginPath();
    if (isRound(kind)) c.arc(x, y, 6, 0, 2 * Math.PI);
    else if (kind === 'histogram') c.rect(x, box.y, 0.1, box.h);
    else c.rect(box.x, y, box.w, 0.1);
    c.stroke();
  });
  c.setLineDash([]);
}

/** Clears a canvas and draws a scope on it; without one, its scale alone. */
export function drawScope(
  canvas: HTMLCanvasElement,
  scope: Scope | undefined,
  encoding: Encoding,
  marks: ScopeMarks,
): void {
  const c = canvas.getContext('2d')!;
  c.clearRect(0, 0, canvas.width, canvas.height);
  if (!scope) return;
  const { kind, traces } = scope;
  const boxes = boxesOf(scope, canvas.width, canvas.height);
  scaleOf(c, kind, encoding, boxes);
  c.imageSmoothingEnabled = true;
  c.globalCompositeOperation = 'lighter';
  traces.forEach((trace, k) => {
    const box = boxes[k]!;
    if (kind === 'histogram') return bars(c, box, trace, TRACE_COLOURS.histogram[k]!);
    c.drawImage(cloud(scope, trace, INKS[kind] ?? TRACE_COLOURS[kind][k]!), box.x, box.y, box.w, box.h);
  });
  c.globalCompositeOperation = 'source-over';
  if (marks.required) mark(c, kind, boxes, scopeSpots(kind, marks.required, encoding, 0.5), [3, 2]);
  if (marks.probe) mark(c, kind, boxes, scopeSpots(kind, marks.probe.codes, encoding, marks.probe.column), []);
}

/** A histogram as an outline, by square roots: small counts are seen. */
function bars(c: CanvasRenderingContext2D, box: Box, trace: Float32Array, ink: string): void {
  const most = Math.sqrt(trace.reduce((a, b) => Math.max(a, b), 1));
  c.strokeStyle = ink;
  c.lineWidth = 1;
  c.beginPath();
  trace.forEach((n, i) => {
    const [x, y] = place(box, { x: (i + 0.5) / trace.length, y: 1 - Math.sqrt(n) / most });
    if (i === 0) c.moveTo(x, y);
    else c.lineTo(x, y);
  });
  c.stroke();
}

/** A colour's codes in an encoding, for a mark. */
export const marked = (encoding: Encoding, linear: readonly [number, number, number]): Three =>
  codesFromLinear709(encoding, linear);
