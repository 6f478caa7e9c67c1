import type { Picture } from '../engine/frameProtocol.ts';
import { drawHandle, type At, type ViewerTool } from './tools/tool.ts';

export interface Dot {
  x: number;
  y: number;
  sign: 'add' | 'remove';
}

/** The picture on screen: zoom at the pointer, pan, the chosen tool on top. No React, no store; pixels stay here. */
export class FrameViewer {
  readonly #canvas: HTMLCanvasElement;
  readonly #context: CanvasRenderingContext2D;
  readonly #picture = document.createElement('canvas');
  readonly #resize: ResizeObserver;
  readonly #abort = new AbortController();
  #full = { width: 1, height: 1 };
  #hasPicture = false;
  /** Screen pixels a full-resolution pixel takes, and where the picture's corner lies. */
  #view = { zoom: 1, x: 0, y: 0 };
  #fitted = true;
  #tool: ViewerTool | undefined;
  #dots: readonly Dot[] = [];
  #panning: { x: number; y: number } | undefined;
  #space = false;
  #asked = 0;
  onProbe: (at: { x: number; y: number } | undefined) => void = () => undefined;
  onZoom: (zoom: number) => void = () => undefined;

  constructor(canvas: HTMLCanvasElement) {
    this.#canvas = canvas;
    this.#context = canvas.getContext('2d')!;
    this.#resize = new ResizeObserver(() => this.#sized());
    this.#resize.observe(canvas.parentElement!);
    const on = <K extends keyof HTMLElementEventMap>(type: K, listener: (event: HTMLElementEventMap[K]) => void, options: AddEventListenerOptions = {}) =>
      canvas.addEventListener(type, listener, { ...options, signal: this.#abort.signal });
    on('pointerdown', (e) => this.#down(e));
    on('pointermove', (e) => this.#move(e));
    on('pointerup', (e) => this.#up(e));
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
    cancelAnimationFrame(this.#asked);
  }

  /** Shows a picture of a shot whose full resolution is given. */
  show({ rgba, width, height }: Picture, full: { width: number; height: number }): void {
    if (this.#picture.width !== width || this.#picture.height !== height) Object.assign(this.#picture, { width, height });
    this.#picture.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
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
  key(key: 'Enter' | 'Escape'): void {
    this.#tool?.key?.(key);
    this.#ask();
  }
  redraw(): void {
    this.#ask();
  }
  fit(): void {
    const { clientWidth, clientHeight } = this.#canvas;
    const zoom = Math.min((clientWidth - 24) / this.#full.width, (clientHeight - 24) / this.#full.height);
    this.#view = { zoom, x: (clientWidth - zoom * this.#full.width) / 2, y: (clientHeight - zoom * this.#full.height) / 2 };
    this.#fitted = true;
    this.onZoom(zoom);
    this.#ask();
  }
  /** Zooms about the middle of the view, or about a point in screen pixels. */
  zoomTo(zoom: number, x = this.#canvas.clientWidth / 2, y = this.#canvas.clientHeight / 2): void {
    const next = Math.min(Math.max(zoom, 0.05), 32);
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
  #at(e: PointerEvent): At {
    const box = this.#canvas.getBoundingClientRect();
    const { zoom, x, y } = this.#view;
    return { x: (e.clientX - box.left - x) / zoom, y: (e.clientY - box.top - y) / zoom, px: 1 / zoom, shift: e.shiftKey };
  }
  #down(e: PointerEvent): void {
    this.#canvas.setPointerCapture(e.pointerId);
    if (e.button === 1 || this.#space || !this.#tool) this.#panning = { x: e.clientX, y: e.clientY };
    else if (e.button === 0 && this.#hasPicture) this.#tool.down(this.#at(e)); // without a picture there is nothing to pick from or to draw on
    this.#ask();
  }
  #move(e: PointerEvent): void {
    if (this.#panning) {
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
    if (this.#panning) this.#panning = undefined;
    else if (e.button === 0) this.#tool?.up(this.#at(e));
    this.#ask();
  }
  #wheel(e: WheelEvent): void {
    e.preventDefault();
    const box = this.#canvas.getBoundingClientRect();
    this.zoomTo(this.#view.zoom * 1.0015 ** -e.deltaY, e.clientX - box.left, e.clientY - box.top);
  }
  #ask(): void {
    cancelAnimationFrame(this.#asked);
    this.#asked = requestAnimationFrame(() => this.#draw());
  }
  #draw(): void {
    const context = this.#context;
    const ratio = devicePixelRatio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, this.#canvas.width, this.#canvas.height);
    if (!this.#hasPicture) return;
    const { zoom, x, y } = this.#view;
    context.imageSmoothingEnabled = zoom < 4;
    context.imageSmoothingQuality = 'high';
    context.drawImage(this.#picture, x, y, zoom * this.#full.width, zoom * this.#full.height);
    const to = (px: number, py: number): [number, number] => [px * zoom + x, py * zoom + y];
    for (const dot of this.#dots) {
      const [dx, dy] = to(dot.x, dot.y);
      drawHandle(context, [dx, dy], true);
      context.fillStyle = '#000000';
      context.fillRect(dx - 2, dy - 0.5, 4, 1);
      if (dot.sign === 'add') context.fillRect(dx - 0.5, dy - 2, 1, 4);
    }
    this.#tool?.draw(context, to);
  }
}
