import type { PathPoint, Stroke } from '@mellow/contract';
import { inverted, jacobianAt, project, type Homography } from '@mellow/core';
import type { Picture } from '../engine/frameProtocol.ts';
import { drawStroke } from './tools/scribbleTool.ts';
import {
  drawHandle,
  strokeTwice,
  tracePath,
  type At,
  type ToolKey,
  type ToScreen,
  type ViewerTool,
} from './tools/tool.ts';
import { clipToSource, drawWipe, turnedTo, wipeGripAt, type Wipe } from './wipe.ts';

export interface Dot {
  x: number;
  y: number;
  sign: 'add' | 'remove';
}
/** A path drawn over the picture that is not in hand: a tracked region, a hold-out, the frame before. */
export interface Outline {
  points: readonly PathPoint[];
  look: 'plain' | 'dashed' | 'faint';
}
export type CompareMode = 'off' | 'wipe' | 'side by side' | 'blink';

const BLINK_MS = 600;
/** From this zoom on the pixels of the picture are ruled. */
const GRID_ZOOM = 8;
const DOT_REACH = 8;

/** The picture on screen: zoom at the pointer, pan, compare, the chosen tool on top. No React, no store; pixels stay here. */
export class FrameViewer {
  readonly #canvas: HTMLCanvasElement;
  readonly #context: CanvasRenderingContext2D;
  readonly #picture = document.createElement('canvas');
  readonly #source = document.createElement('canvas');
  readonly #resize: ResizeObserver;
  readonly #abort = new AbortController();
  #full = { width: 1, height: 1 };
  #hasPicture = false;
  #hasSource = false;
  /** Screen pixels a full-resolution pixel takes, and where the picture's corner lies. */
  #view = { zoom: 1, x: 0, y: 0 };
  #fitted = true;
  #tool: ViewerTool | undefined;
  #dots: readonly Dot[] = [];
  #outlines: readonly Outline[] = [];
  #strokes: readonly Stroke[] = [];
  /** Affine map of picture pixels that keeps a track still: x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
  #held: { a: number; b: number; c: number; d: number; e: number; f: number } | undefined;
  #dotHeld: { index: number; at: At } | undefined;
  #panning: { x: number; y: number } | undefined;
  #compare: CompareMode = 'off';
  #wipe: Wipe = { x: 0.5, y: 0.5, deg: 0 };
  #wipeHeld: 'move' | 'turn' | undefined;
  #blinkTimer: ReturnType<typeof setInterval> | undefined;
  #blinkSource = false;
  #liftStops = 0;
  #ghosted = false;
  #space = false;
  #asked = 0;
  onProbe: (at: { x: number; y: number } | undefined) => void = () => undefined;
  onZoom: (zoom: number) => void = () => undefined;
  onWipe: (wipe: Wipe) => void = () => undefined;
  onDotMoved: (index: number, to: { x: number; y: number }) => void = () => undefined;

  constructor(canvas: HTMLCanvasElement) {
    this.#canvas = canvas;
    this.#context = canvas.getContext('2d')!;
    this.#resize = new ResizeObserver(() => this.#sized());
    this.#resize.observe(canvas.parentElement!);
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      listener: (event: HTMLElementEventMap[K]) => void,
      options: AddEventListenerOptions = {},
    ) => canvas.addEventListener(type, listener, { ...options, signal: this.#abort.signal });
    on('pointerdown', (e) => this.#down(e));
    on('pointermove', (e) => this.#move(e));
    on('pointerup', (e) => this.#up(e));
    on('dblclick', (e) => {
      this.#tool?.double?.(this.#at(e));
      this.#ask();
    });
    on('pointerleave', () => this.onProbe(undefined));
    on('wheel', (e) => this.#wheel(e), { passive: false });
    const spaceKey = (held: boolean) => (e: KeyboardEvent) => {
      if (e.code === 'Space') this.#space = held;
    };
    addEventListener('keydown', spaceKey(true), { signal: this.#abort.signal });
    addEventListener('keyup', spaceKey(false), { signal: this.#abort.signal });
    this.#sized();
  }
  close(): void {
    this.#abort.abort();
    this.#resize.disconnect();
    clearInterval(this.#blinkTimer);
    cancelAnimationFrame(this.#asked);
  }

  /** Shows a picture of a shot whose full resolution is given, and the source beside it where one compares. */
  show(picture: Picture, full: { width: number; height: number }, source?: Picture): void {
    put(this.#picture, picture);
    this.#hasSource = source !== undefined;
    if (source) put(this.#source, source);
    this.#hasPicture = true;
    this.#canvas.dataset.picture = 'shown';
    if (full.width !== this.#full.width || full.height !== this.#full.height) {
      this.#full = full;
      if (this.#fitted) this.fit();
    }
    this.#ask();
  }
  clear(): void {
    this.#hasPicture = false;
    this.#canvas.dataset.picture = 'none';
    this.#ask();
  }
  setTool(tool: ViewerTool | undefined): void {
    this.#tool = tool;
    this.#canvas.style.cursor = tool?.cursor ?? 'grab';
    this.#ask();
  }
  setDots(dots: readonly Dot[]): void {
    this.#dots = dots;
    this.#ask();
  }
  setOutlines(outlines: readonly Outline[]): void {
    this.#outlines = outlines;
    this.#ask();
  }
  setStrokes(strokes: readonly Stroke[]): void {
    this.#strokes = strokes;
    this.#ask();
  }
  /**
   * Holds a track still: the picture is moved, turned and scaled against the track's motion, exactly at `centre` (picture
   * pixels of the reference frame) and nearly round it. Undefined lets it move again.
   */
  hold(motion: Homography | undefined, centre: readonly [number, number]): void {
    this.#held = undefined;
    if (motion) {
      const [u, v] = project(motion, ...centre);
      const [a, c, b, d] = jacobianAt(inverted(motion), u, v);
      this.#held = { a, b, c, d, e: centre[0] - a * u - c * v, f: centre[1] - b * u - d * v };
    }
    this.#ask();
  }
  setCompare(mode: CompareMode, wipe: Wipe): void {
    const changed = mode !== this.#compare;
    this.#compare = mode;
    if (!this.#wipeHeld) this.#wipe = wipe;
    if (changed) {
      clearInterval(this.#blinkTimer);
      this.#blinkSource = false;
      if (mode === 'blink')
        this.#blinkTimer = setInterval(() => {
          this.#blinkSource = !this.#blinkSource;
          this.#ask();
        }, BLINK_MS);
      if (this.#fitted) this.fit();
    }
    this.#ask();
  }
  setLift(stops: number): void {
    this.#liftStops = stops;
    this.#ask();
  }
  setGhosted(ghosted: boolean): void {
    this.#ghosted = ghosted;
    this.#ask();
  }
  key(key: ToolKey): boolean {
    const used = this.#tool?.key?.(key) ?? false;
    this.#ask();
    return used;
  }
  nudge(dx: number, dy: number): boolean {
    const used = this.#tool?.nudge?.(dx, dy) ?? false;
    this.#ask();
    return used;
  }
  /** Width of the part of the view one picture has: half of it side by side. */
  get #pane(): number {
    return this.#compare === 'side by side' ? this.#canvas.clientWidth / 2 : this.#canvas.clientWidth;
  }
  fit(): void {
    const { clientWidth, clientHeight } = this.#canvas;
    const zoom = Math.min((this.#pane - 24) / this.#full.width, (clientHeight - 24) / this.#full.height);
    this.#view = {
      zoom,
      x: (clientWidth - zoom * this.#full.width) / 2,
      y: (clientHeight - zoom * this.#full.height) / 2,
    };
    this.#fitted = true;
    this.onZoom(zoom);
    this.#ask();
  }
  /** Zooms about the middle of the view, or about a point in screen pixels. */
  zoomTo(zoom: number, x = this.#canvas.clientWidth / 2, y = this.#canvas.clientHeight / 2): void {
    const next = Math.min(Math.max(zoom, 0.02), 64);
    const k = next / this.#view.zoom;
    this.#view = { zoom: next, x: x - (x - this.#view.x) * k, y: y - (y - this.#view.y) * k };
    this.#fitted = false;
    this.onZoom(next);
    this.#ask();
  }
  get zoom(): number {
    return this.#view.zoom;
  }

  #sized(): void {
    const { clientWidth, clientHeight } = this.#canvas.parentElement!;
    const ratio = devicePixelRatio;
    Object.assign(this.#canvas, { width: Math.round(clientWidth * ratio), height: Math.round(clientHeight * ratio) });
    Object.assign(this.#canvas.style, { width: `${clientWidth}px`, height: `${clientHeight}px` });
    if (this.#fitted) this.fit();
    this.#ask();
  }
  /** Side by side, the source is shown a quarter of the width to the left, the view as far to the right. */
  #shiftAt(screenX: number): number {
    if (this.#compare !== 'side by side') return 0;
    const quarter = this.#canvas.clientWidth / 4;
    return screenX < 2 * quarter ? -quarter : quarter;
  }
  #onCanvas(e: { clientX: number; clientY: number }): [number, number] {
    const box = this.#canvas.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  }
  #at(e: MouseEvent): At {
    const [sx, sy] = this.#onCanvas(e);
    const { zoom, x, y } = this.#view;
    const [hx, hy] = [(sx - this.#shiftAt(sx) - x) / zoom, (sy - y) / zoom];
    const held = this.#held;
    if (!held) return { x: hx, y: hy, px: 1 / zoom, shift: e.shiftKey, alt: e.altKey };
    const det = held.a * held.d - held.b * held.c;
    const [dx, dy] = [hx - held.e, hy - held.f];
    return {
      x: (held.d * dx - held.c * dy) / det,
      y: (held.a * dy - held.b * dx) / det,
      px: 1 / (zoom * Math.sqrt(Math.abs(det))),
      shift: e.shiftKey,
      alt: e.altKey,
    };
  }
  get #wipeCentre(): [number, number] {
    const { zoom, x, y } = this.#view;
    return [x + this.#wipe.x * this.#full.width * zoom, y + this.#wipe.y * this.#full.height * zoom];
  }
  #down(e: PointerEvent): void {
    this.#canvas.setPointerCapture(e.pointerId);
    this.#canvas.focus({ preventScroll: true });
    if (e.button === 0 && this.#compare === 'wipe') {
      this.#wipeHeld = wipeGripAt(this.#wipe, this.#wipeCentre, ...this.#onCanvas(e));
      if (this.#wipeHeld) return;
    }
    if (e.button === 1 || this.#space || !this.#tool) this.#panning = { x: e.clientX, y: e.clientY };
    else if (e.button === 0 && this.#hasPicture) {
      // without a picture there is nothing to pick from or to draw on
      const at = this.#at(e);
      const index = this.#dots.findIndex((d) => Math.hypot(d.x - at.x, d.y - at.y) < DOT_REACH * at.px);
      if (index >= 0) this.#dotHeld = { index, at };
      else this.#tool.down(at);
    }
    this.#ask();
  }
  #move(e: PointerEvent): void {
    if (this.#wipeHeld) {
      const [sx, sy] = this.#onCanvas(e);
      const { zoom, x, y } = this.#view;
      if (this.#wipeHeld === 'turn') this.#wipe = { ...this.#wipe, deg: turnedTo(this.#wipeCentre, sx, sy) };
      else
        this.#wipe = {
          ...this.#wipe,
          x: Math.min(Math.max((sx - x) / zoom / this.#full.width, 0), 1),
          y: Math.min(Math.max((sy - y) / zoom / this.#full.height, 0), 1),
        };
    } else if (this.#dotHeld) this.#dotHeld = { ...this.#dotHeld, at: this.#at(e) };
    else if (this.#panning) {
      this.#view.x += e.clientX - this.#panning.x;
      this.#view.y += e.clientY - this.#panning.y;
      this.#panning = { x: e.clientX, y: e.clientY };
      this.#fitted = false;
    } else {
      this.#tool?.move(this.#at(e));
      this.#canvas.style.cursor = this.#tool?.cursor ?? 'grab';
      const at = this.#at(e);
      this.onProbe(at.x >= 0 && at.y >= 0 && at.x < this.#full.width && at.y < this.#full.height ? at : undefined);
    }
    this.#ask();
  }
  #up(e: PointerEvent): void {
    if (this.#wipeHeld) {
      this.#wipeHeld = undefined;
      this.onWipe(this.#wipe);
    } else if (this.#dotHeld) {
      const { index, at } = this.#dotHeld;
      this.#dotHeld = undefined;
      const from = this.#dots[index]!;
      if (Math.hypot(from.x - at.x, from.y - at.y) > 2 * at.px) this.onDotMoved(index, { x: at.x, y: at.y });
    } else if (this.#panning) this.#panning = undefined;
    else if (e.button === 0) this.#tool?.up(this.#at(e));
    this.#ask();
  }
  #wheel(e: WheelEvent): void {
    e.preventDefault();
    const [x, y] = this.#onCanvas(e);
    this.zoomTo(this.#view.zoom * 1.0015 ** -e.deltaY, x - this.#shiftAt(x), y);
  }
  #ask(): void {
    cancelAnimationFrame(this.#asked);
    this.#asked = requestAnimationFrame(() => this.#draw());
  }
  #draw(): void {
    const context = this.#context;
    // where the picture lies, for whoever drives the page from outside
    this.#canvas.dataset.placed = `${this.#view.zoom} ${this.#view.x} ${this.#view.y}`;
    const ratio = devicePixelRatio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, this.#canvas.width, this.#canvas.height);
    if (!this.#hasPicture) return;
    const { clientWidth: w, clientHeight: h } = this.#canvas;
    if (this.#compare === 'side by side' && this.#hasSource) {
      this.#inPane(0, w / 2, -w / 4, () => this.#drawPicture(this.#source));
      this.#inPane(w / 2, w, w / 4, () => this.#drawPicture(this.#picture));
      this.#inPane(w / 2, w, w / 4, () => this.#drawOverlay());
      context.fillStyle = 'rgba(128,128,128,0.8)';
      context.fillRect(w / 2 - 0.5, 0, 1, h);
      return;
    }
    this.#drawPicture(this.#compare === 'blink' && this.#blinkSource && this.#hasSource ? this.#source : this.#picture);
    if (this.#compare === 'wipe' && this.#hasSource) {
      context.save();
      clipToSource(context, this.#wipe, this.#wipeCentre);
      this.#drawPicture(this.#source);
      context.restore();
    }
    this.#drawOverlay();
    if (this.#compare === 'wipe' && this.#hasSource) drawWipe(context, this.#wipe, this.#wipeCentre);
  }
  #inPane(from: number, to: number, shift: number, draw: () => void): void {
    const context = this.#context;
    context.save();
    context.beginPath();
    context.rect(from, 0, to - from, this.#canvas.clientHeight);
    context.clip();
    context.translate(shift, 0);
    draw();
    context.restore();
  }
  #drawPicture(picture: HTMLCanvasElement): void {
    const context = this.#context;
    const { zoom, x, y } = this.#view;
    context.imageSmoothingEnabled = zoom < 4;
    context.imageSmoothingQuality = 'high';
    // the lift is on code values and for the eye only
    if (this.#liftStops !== 0) context.filter = `brightness(${2 ** this.#liftStops})`;
    const held = this.#held;
    if (held) {
      context.save();
      context.transform(
        zoom * held.a,
        zoom * held.b,
        zoom * held.c,
        zoom * held.d,
        zoom * held.e + x,
        zoom * held.f + y,
      );
      context.drawImage(picture, 0, 0, this.#full.width, this.#full.height);
      context.restore();
    } else context.drawImage(picture, x, y, zoom * this.#full.width, zoom * this.#full.height);
    context.filter = 'none';
    if (zoom >= GRID_ZOOM && !held) this.#drawGrid();
  }
  #drawGrid(): void {
    const context = this.#context;
    const { zoom, x, y } = this.#view;
    const { clientWidth: w, clientHeight: h } = this.#canvas;
    const [left, right] = [Math.max(Math.floor(-x / zoom), 0), Math.min(Math.ceil((w - x) / zoom), this.#full.width)];
    const [top, bottom] = [Math.max(Math.floor(-y / zoom), 0), Math.min(Math.ceil((h - y) / zoom), this.#full.height)];
    context.beginPath();
    for (let i = left; i <= right; i++) {
      context.moveTo(x + i * zoom, y + top * zoom);
      context.lineTo(x + i * zoom, y + bottom * zoom);
    }
    for (let j = top; j <= bottom; j++) {
      context.moveTo(x + left * zoom, y + j * zoom);
      context.lineTo(x + right * zoom, y + j * zoom);
    }
    context.lineWidth = 1;
    context.strokeStyle = 'rgba(128,128,128,0.45)';
    context.stroke();
  }
  #drawOverlay(): void {
    const context = this.#context;
    const { zoom, x, y } = this.#view;
    const held = this.#held;
    const to: ToScreen = held
      ? (px, py) => [(held.a * px + held.c * py + held.e) * zoom + x, (held.b * px + held.d * py + held.f) * zoom + y]
      : (px, py) => [px * zoom + x, py * zoom + y];
    const perPixel = held ? zoom * Math.sqrt(Math.abs(held.a * held.d - held.b * held.c)) : zoom;
    for (const stroke of this.#strokes) drawStroke(context, stroke, to, perPixel, this.#ghosted);
    for (const { points, look } of this.#outlines) {
      context.globalAlpha = look === 'faint' || this.#ghosted ? 0.4 : 1;
      tracePath(context, points, to);
      strokeTwice(context, look !== 'plain');
      context.globalAlpha = 1;
    }
    this.#dots.forEach((dot, i) => {
      const [dx, dy] = this.#dotHeld?.index === i ? to(this.#dotHeld.at.x, this.#dotHeld.at.y) : to(dot.x, dot.y);
      context.globalAlpha = this.#ghosted ? 0.35 : 1;
      drawHandle(context, [dx, dy], 'round');
      context.fillStyle = '#000000';
      context.fillRect(dx - 2, dy - 0.5, 4, 1);
      if (dot.sign === 'add') context.fillRect(dx - 0.5, dy - 2, 1, 4);
      context.globalAlpha = 1;
    });
    this.#tool?.draw(context, to, this.#ghosted);
  }
}

function put(canvas: HTMLCanvasElement, { rgba, width, height }: Picture): void {
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
}
