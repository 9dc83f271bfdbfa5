/** How tall a person has made the strip. */

const KEY = 'ulvent.strip';
const USUAL = 208;
export const LEAST = 120;

export function keptHeight(): number {
  try {
    return Math.max(LEAST, Number(localStorage.getItem(KEY)) || USUAL);
  } catch {
    return USUAL;
  }
}

export function keepHeight(height: number): void {
  try {
    localStorage.setItem(KEY, String(height));
  } catch {
    // A browser that keeps nothing begins with the usual height again.
  }
}
