/** Figures of a rehearsal in words. */

import { figure } from '../words/words';

/** `1 h 02 min`, `3 min 05 s`, `12 s`. */
export function lasting(seconds: number): string {
  const whole = Math.round(seconds);
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (count: number) => String(count).padStart(2, '0');
  if (hours) return `${hours} h ${two(minutes)} min`;
  return minutes ? `${minutes} min ${two(rest)} s` : `${rest} s`;
}

/** A length in mm, in metres. */
export const metres = (mm: number) => `${figure(Number((mm / 1000).toPrecision(3)))} m`;
