import { useEffect, useRef, useState, type RefObject } from 'react';
import type { Rate } from '@mellow/contract';
import { apart, frameAtSecond, secondOf } from './filmTime.ts';

export interface Playing {
  /** Holds the film elements; the first leads. */
  box: RefObject<HTMLDivElement | null>;
  /** Counted from 0. */
  frame: number;
  isPlaying: boolean;
  toggle: () => void;
  goTo: (frame: number) => void;
}
const filmsIn = (box: HTMLElement | null): HTMLVideoElement[] => Array.from(box?.querySelectorAll('video') ?? []);

/** Plays the films in a box together, round and round: the first leads, the others are set to it. */
export function useFilms(fps: Rate, frames: number, shown: string): Playing {
  const box = useRef<HTMLDivElement>(null);
  const [frame, setFrame] = useState(0);
  const [isPlaying, setPlaying] = useState(false);
  const { num, den } = fps;
  // other films come in at the frame one is at
  const last = useRef(0);
  useEffect(() => void (last.current = frame), [frame]);
  useEffect(() => {
    for (const film of filmsIn(box.current))
      film.currentTime = secondOf(Math.min(last.current, frames - 1), { num, den });
  }, [shown, frames, num, den]);
  useEffect(() => {
    const films = filmsIn(box.current);
    const [lead] = films;
    if (!lead || !isPlaying) return;
    const rate = { num, den };
    let asked = 0;
    const step: VideoFrameRequestCallback = (_now, { mediaTime }) => {
      setFrame(frameAtSecond(mediaTime, rate, frames));
      for (const film of films)
        if (film !== lead && Math.abs(film.currentTime - lead.currentTime) > apart(rate))
          film.currentTime = lead.currentTime;
      asked = lead.requestVideoFrameCallback(step);
    };
    asked = lead.requestVideoFrameCallback(step);
    const again = () => {
      for (const film of films) film.currentTime = 0;
      void lead.play();
    };
    lead.addEventListener('ended', again);
    for (const film of films) void film.play().catch(() => setPlaying(false));
    return () => {
      lead.cancelVideoFrameCallback(asked);
      lead.removeEventListener('ended', again);
      for (const film of films) film.pause();
    };
  }, [isPlaying, shown, frames, num, den]);
  const goTo = (to: number) => {
    const within = Math.min(Math.max(Math.round(to), 0), frames - 1);
    setPlaying(false);
    setFrame(within);
    for (const film of filmsIn(box.current)) film.currentTime = secondOf(within, fps);
  };
  return { box, frame: Math.min(frame, frames - 1), isPlaying, toggle: () => setPlaying(!isPlaying), goTo };
}
