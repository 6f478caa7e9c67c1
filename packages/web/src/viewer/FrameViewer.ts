// The picture on screen: the view, the comparison, what lies over it and who has the pointer, put together.
import type { Note } from '@mellow/contract';
import type { Homography } from '@mellow/core';
import type { Picture } from '../engine/frameProtocol.ts';
import type { Compare } from '../view/lookSlice.ts';
import { Comparison } from './comparison.ts';
import { drawPixelGrid, GRID_ZOOM } from './pixelGrid.ts';
import { DotGrip, PanGrip, ToolGrip, WipeGrip, type Grip, type Pointer } from './grips.ts';
import {
  dotsOverlay,
  notesOverlay,
  outlinesOverlay,
  strokesOverlay,
  type StrokeLooks,
  type Dot,
  type Outline,
  type Overlay,
} from './overlays.ts';
import { KeyPointer, type KeyPress } from './keyPointer.ts';
import { Pinch } from './pinch.ts';
import type { At, ToolKey, ViewerTool } from './tools/tool.ts';
import { ViewTransform, type Size } from './viewTransform.ts';
import type { ScreenPoint, Wipe } from './wipe.ts';

/** What a viewer tells. */
export interface ViewerEvents {
  probed: (at: { x: number; y: number } | undefined) => void;
  zoomed: (zoom: number) => void;
  wiped: (wipe: Wipe) => void;
  dotMoved: (index: number, to: { x: number; y: number }) => void;
}
const ZOOM_PER_WHEEL_UNIT = 1.0015;
/** The cursor of tools that draw or pick, and so can be worked by keys. */
const DRAWS = 'crosshair';

/** No React, no store; pixels stay here. */
export class FrameViewer {
  readonly #canvas: HTMLCanvasElement;
  readonly #context: CanvasRenderingContext2D;
  /** Lies over the picture: drawn with every move of the pointer, which the picture is not. */
  readonly #over: CanvasRenderingContext2D;
  readonly #events: ViewerEvents;
  readonly #picture = document.createElement('canvas');
  readonly #source = document.createElement('canvas');
  readonly #resize: ResizeObserver;
  readonly #abort = new AbortController();
  readonly #view = new ViewTransform();
  readonly #comparison = new Comparison();
  readonly #wipe: WipeGrip;
  readonly #dots: DotGrip;
  readonly #tool = new ToolGrip();
  readonly #keyPointer = new KeyPointer();
  readonly #pinch = new Pinch();
  /** Asked in this order. */
  readonly #grips: readonly Grip[];
  #held: Grip | undefined;
  #overlays: readonly Overlay[] = [];
  /** In place of them, and of the tool, while frames pass. */
  #passing: Overlay | undefined;
  #notes: readonly Pick<Note, 'spot' | 'drawing'>[] = [];
  #full: Size = { width: 1, height: 1 };
  #hasPicture = false;
  #hasSource = false;
  #ghosted = false;
  #space = false;
  #asked = 0;
  /** What is asked for is the picture too. */
  #isPictureAsked = false;
  /** It is drawn as soon as what asks for it has been done. */
  #isDue = false;

  constructor(canvas: HTMLCanvasElement, over: HTMLCanvasElement, events: ViewerEvents) {
    this.#canvas = canvas;
    this.#context = canvas.getContext('2d')!;
    this.#over = over.getContext('2d')!;
    this.#events = events;
    this.#wipe = new WipeGrip(
      this.#comparison,
      this.#view,
      () => this.#full,
      () => events.wiped(this.#comparison.wipe),
    );
    this.#dots = new DotGrip((index, to) => events.dotMoved(index, to));
    const pan = new PanGrip(this.#view, () => this.#tool.tool !== undefined);
    this.#grips = [this.#wipe, pan, this.#dots, this.#tool];
    this.#resize = new ResizeObserver(() => this.#sized());
    this.#resize.observe(canvas.parentElement!);
    this.#listen();
    this.#sized();
  }
  close(): void {
    this.#abort.abort();
    this.#resize.disconnect();
    this.#comparison.close();
    cancelAnimationFrame(this.#asked);
  }

  /** Shows a picture of a shot whose full resolution is given, and the source beside it where one compares. */
  show(picture: Picture, full: Size, source?: Picture): void {
    put(this.#picture, picture);
    this.#hasSource = source !== undefined;
    if (source) put(this.#source, source);
    this.#hasPicture = true;
    this.#canvas.dataset.picture = 'shown';
    if (full.width !== this.#full.width || full.height !== this.#full.height) {
      this.#full = full;
      if (this.#view.isFitted) this.fit();
    }
    this.#askPicture();
  }
  clear(): void {
    this.#hasPicture = false;
    this.#canvas.dataset.picture = 'none';
    this.#askPicture();
  }
  setTool(tool: ViewerTool | undefined): void {
    if (tool !== this.#tool.tool) this.#keyPointer.leave();
    this.#tool.tool = tool;
    this.#canvas.style.cursor = tool?.cursor ?? 'grab';
    this.#ask();
  }
  /** What is pinned to the frame, or drawn on it, in notes. */
  setNotes(notes: readonly Pick<Note, 'spot' | 'drawing'>[]): void {
    this.#notes = notes;
    this.#ask();
  }
  /** What lies over the picture and is not in hand. */
  setOver({
    dots,
    outlines,
    strokes,
  }: {
    dots: readonly Dot[];
    outlines: readonly Outline[];
    strokes: readonly StrokeLooks[];
  }): void {
    this.#dots.dots = dots;
    this.#overlays = [
      strokesOverlay(strokes),
      outlinesOverlay(outlines),
      (over) => dotsOverlay(this.#dots.shown)(over),
    ];
    this.#ask();
  }
  /** While frames pass: the outlines alone, of the frame in sight. Undefined: it rests. */
  setPassing(outlines: readonly Outline[] | undefined): void {
    const isEnd = this.#passing && !outlines;
    this.#passing = outlines && outlinesOverlay(outlines);
    if (isEnd) this.#askPicture();
    else this.#ask();
  }
  /** See `ViewTransform.hold`. */
  hold(motion: Homography | undefined, centre: readonly [number, number]): void {
    this.#view.hold(motion, centre);
    this.#askPicture();
  }
  setCompare(mode: Compare, wipe: Wipe): void {
    if (!this.#wipe.isHeld) this.#comparison.wipe = wipe;
    if (this.#comparison.setMode(mode, () => this.#askPicture()) && this.#view.isFitted) this.fit();
    this.#askPicture();
  }
  setGhosted(ghosted: boolean): void {
    this.#ghosted = ghosted;
    this.#ask();
  }
  key(key: ToolKey): boolean {
    const used = this.#tool.tool?.key?.(key) ?? false;
    this.#ask();
    return used;
  }
  nudge(dx: number, dy: number): boolean {
    const used = this.#tool.tool?.nudge?.(dx, dy) ?? false;
    this.#ask();
    return used;
  }
  /** A key for drawing without a mouse; true when the tool in hand draws and the key was of use. */
  keyPointer(press: KeyPress): boolean {
    const { tool } = this.#tool;
    if (!this.#hasPicture || tool?.cursor !== DRAWS) return false;
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    const did = this.#keyPointer.press(press, { width, height });
    if (!did || !this.#keyPointer.at) return false;
    const pointer = this.#pointerAt(this.#keyPointer.at, false, false);
    if (did === 'pressed') this.#tool.down(pointer);
    else if (did === 'moved') this.#tool.move(pointer);
    else this.#tool.up(pointer);
    this.#ask();
    return true;
  }
  /** Does at a place what a double click does there. */
  doubleAt(e: MouseEvent): void {
    this.#double(e);
  }
  fit(): void {
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    this.#view.fit(this.#full, { width, height }, this.#comparison.paneWidth(width));
    this.#events.zoomed(this.#view.zoom);
    this.#askPicture();
  }
  /** Zooms about the middle of the view, or about a point in screen pixels. */
  zoomTo(zoom: number, x = this.#canvas.clientWidth / 2, y = this.#canvas.clientHeight / 2): void {
    this.#view.zoomAbout(zoom, x, y);
    this.#events.zoomed(this.#view.zoom);
    this.#askPicture();
  }

  #listen(): void {
    const { signal } = this.#abort;
    const canvas = this.#canvas;
    canvas.addEventListener('pointerdown', (e) => this.#down(e), { signal });
    canvas.addEventListener('pointermove', (e) => this.#move(e), { signal });
    canvas.addEventListener('pointerup', (e) => this.#up(e), { signal });
    canvas.addEventListener('pointercancel', (e) => this.#pinch.up(e.pointerId), { signal });
    canvas.addEventListener('dblclick', (e) => this.#double(e), { signal });
    canvas.addEventListener('pointerleave', () => this.#left(), { signal });
    canvas.addEventListener('wheel', (e) => this.#wheel(e), { signal, passive: false });
    const spaceKey = (held: boolean) => (e: KeyboardEvent) => {
      if (e.code === 'Space') this.#space = held;
    };
    addEventListener('keydown', spaceKey(true), { signal });
    addEventListener('keyup', spaceKey(false), { signal });
  }
  /** Where the pointer is on the canvas. */
  #spot(e: MouseEvent): ScreenPoint {
    const box = this.#canvas.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  }
  #pointer(e: MouseEvent): Pointer {
    const { screen, at } = this.#pointerAt(this.#spot(e), e.shiftKey, e.altKey);
    const pressure = e instanceof PointerEvent && e.pointerType === 'pen' ? e.pressure : 1;
    return { screen, at: { ...at, pressure }, button: e.button, space: this.#space };
  }
  #pointerAt([sx, sy]: ScreenPoint, shift: boolean, alt: boolean): Pointer {
    const place = this.#view.toPicture(sx - this.#comparison.shiftAt(sx, this.#canvas.clientWidth), sy);
    const at: At = { ...place, px: 1 / this.#view.scale, shift, alt, pressure: 1 };
    return { screen: [sx, sy], at, button: 0, space: false };
  }
  #down(e: PointerEvent): void {
    this.#keyPointer.leave();
    if (e.pointerType === 'touch') this.#pinch.down(e.pointerId, this.#spot(e));
    // a second finger: what the first has begun is left alone, and the view follows both
    if (this.#pinch.isTwo) {
      this.#tool.tool?.key?.('Escape');
      this.#held = undefined;
      return this.#ask();
    }
    this.#canvas.setPointerCapture(e.pointerId);
    this.#canvas.focus({ preventScroll: true });
    const pointer = this.#pointer(e);
    // without a picture there is nothing to pick from or to draw on
    const open = this.#hasPicture ? this.#grips : this.#grips.slice(0, 2);
    this.#held = open.find((grip) => grip.down(pointer));
    this.#ask();
  }
  #move(e: PointerEvent): void {
    const step = this.#pinch.move(e.pointerId, this.#spot(e));
    if (step) {
      this.#view.zoomAbout(this.#view.zoom * step.factor, ...step.about);
      this.#view.pan(...step.by);
      this.#events.zoomed(this.#view.zoom);
      return this.#askPicture();
    }
    this.#keyPointer.leave();
    const pointer = this.#pointer(e);
    (this.#held ?? this.#tool).move(pointer);
    const isOfTool = this.#held === undefined || this.#held === this.#tool;
    if (isOfTool) this.#canvas.style.cursor = this.#tool.tool?.cursor ?? 'grab';
    // what lies under a hand that pulls is not what it looks at
    if (!this.#held) {
      const { x, y } = pointer.at;
      const isInside = x >= 0 && y >= 0 && x < this.#full.width && y < this.#full.height;
      this.#events.probed(isInside ? pointer.at : undefined);
    }
    if (isOfTool) this.#ask();
    // the view or the wipe is moved
    else this.#askPicture();
  }
  #up(e: PointerEvent): void {
    this.#pinch.up(e.pointerId);
    this.#held?.up(this.#pointer(e));
    this.#held = undefined;
    this.#ask();
  }
  #left(): void {
    this.#tool.tool?.leave?.();
    this.#events.probed(undefined);
    this.#ask();
  }
  #double(e: MouseEvent): void {
    this.#tool.tool?.double?.(this.#pointer(e).at);
    this.#ask();
  }
  #wheel(e: WheelEvent): void {
    e.preventDefault();
    if (this.#hasPicture && this.#tool.tool?.wheel?.(e.deltaY)) return this.#ask();
    const [x, y] = this.#pointer(e).screen;
    const shift = this.#comparison.shiftAt(x, this.#canvas.clientWidth);
    this.zoomTo(this.#view.zoom * ZOOM_PER_WHEEL_UNIT ** -e.deltaY, x - shift, y);
  }
  #sized(): void {
    const { clientWidth, clientHeight } = this.#canvas.parentElement!;
    const ratio = devicePixelRatio;
    for (const canvas of [this.#canvas, this.#over.canvas]) {
      Object.assign(canvas, { width: Math.round(clientWidth * ratio), height: Math.round(clientHeight * ratio) });
      Object.assign(canvas.style, { width: `${clientWidth}px`, height: `${clientHeight}px` });
    }
    if (this.#view.isFitted) this.fit();
    this.#askPicture();
  }

  /**
   * Has what lies over the picture drawn anew, with the next frame of the screen; a frame that passes comes into sight
   * with the ruler, in the frame of the screen that it was asked for in.
   */
  #ask(): void {
    cancelAnimationFrame(this.#asked);
    if (!this.#passing) this.#asked = requestAnimationFrame(() => this.#draw());
    else if (!this.#isDue) {
      this.#isDue = true;
      queueMicrotask(() => this.#draw());
    }
  }
  #askPicture(): void {
    this.#isPictureAsked = true;
    this.#ask();
  }
  #draw(): void {
    this.#isDue = false;
    if (this.#isPictureAsked) this.#drawPictures();
    this.#isPictureAsked = false;
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    cleared(this.#over);
    if (!this.#hasPicture) return;
    if (!this.#hasSource) return this.#drawOverlay();
    this.#comparison.drawOver(this.#over, { width, height }, this.#wipe.middle, () => this.#drawOverlay());
  }
  #drawPictures(): void {
    // where the picture lies, for whoever drives the page from outside
    this.#canvas.dataset.placed = `${this.#view.zoom} ${this.#view.x} ${this.#view.y}`;
    cleared(this.#context);
    if (!this.#hasPicture) return;
    if (!this.#hasSource) return this.#drawPicture(this.#picture);
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    this.#comparison.drawPictures(this.#context, { width, height }, this.#wipe.middle, {
      picture: () => this.#drawPicture(this.#picture),
      source: () => this.#drawPicture(this.#source),
    });
  }
  #drawPicture(picture: HTMLCanvasElement): void {
    const context = this.#context;
    context.imageSmoothingEnabled = this.#view.zoom < 4;
    context.imageSmoothingQuality = this.#smoothing(picture);
    context.save();
    this.#view.apply(context);
    context.drawImage(picture, 0, 0, this.#full.width, this.#full.height);
    context.restore();
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    if (this.#view.zoom >= GRID_ZOOM && !this.#view.isHeld)
      drawPixelGrid(context, this.#view, this.#full, { width, height });
  }
  /** What passes is gone before it is looked at closely: where it is little smaller, two samples by two will do. */
  #smoothing({ width }: HTMLCanvasElement): ImageSmoothingQuality {
    const shrunk = (this.#view.scale * this.#full.width * devicePixelRatio) / width;
    return this.#passing && shrunk >= 0.5 ? 'low' : 'high';
  }
  #drawOverlay(): void {
    const context = this.#over;
    const { toScreen: to, scale } = this.#view;
    if (this.#passing) return this.#passing({ context, to, scale, ghosted: this.#ghosted });
    const notes = notesOverlay(this.#notes, this.#full.width, this.#full.height);
    for (const overlay of [...this.#overlays, notes]) overlay({ context, to, scale, ghosted: this.#ghosted });
    this.#tool.tool?.draw(context, to, this.#ghosted);
    this.#keyPointer.draw(context);
  }
}

function cleared(context: CanvasRenderingContext2D): void {
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  context.clearRect(0, 0, context.canvas.width, context.canvas.height);
}
function put(canvas: HTMLCanvasElement, { rgba, width, height }: Picture): void {
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
}
