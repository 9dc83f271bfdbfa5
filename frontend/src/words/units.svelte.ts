/**
 * The unit in which lengths are shown: mm as they are kept, inches, or inches as fractions.
 *
 * The one place where a length becomes another figure, and only to be read: what is typed is
 * understood by the server.
 */

export type Units = 'mm' | 'inch' | 'fraction';

export const MM_AN_INCH = 25.4;
const PARTS = 64;
/** How far a length may be from a fraction, in, to be said by it. */
const EXACT = 2e-5;

let shown = $state<Units>('mm');

export const units = {
  get shown(): Units {
    return shown;
  },
  set shown(wanted: Units) {
    shown = wanted;
  },
  /** The sign behind a figure. */
  get sign(): string {
    return shown === 'mm' ? 'mm' : 'in';
  },
  /** What a figure without a unit is typed in. */
  get typed(): 'mm' | 'in' {
    return shown === 'mm' ? 'mm' : 'in';
  },
};

/** A length in as few digits as it needs; in mm three decimals at most, in inches four. */
export function length(mm: number): string {
  return (shown === 'fraction' && fraction(mm / MM_AN_INCH)) || decimals(mm);
}

/** The same, never as a fraction. */
export function decimals(mm: number): string {
  return String(Number(shown === 'mm' ? mm.toFixed(3) : (mm / MM_AN_INCH).toFixed(4)));
}

/** A length with as many decimals as are asked for in mm, and one more in inches. */
export function exactLength(mm: number, decimals: number): string {
  if (shown === 'mm') return mm.toFixed(decimals);
  const inches = mm / MM_AN_INCH;
  return (shown === 'fraction' && fraction(inches)) || inches.toFixed(decimals + 1);
}

const SMALL = 4;

/** How far one press of a key moves letters of a height, mm: small ones need smaller steps. */
export function stepFor(height: number | undefined): number {
  return (height ?? SMALL) < SMALL ? 0.01 : 0.1;
}

/** Words in which lengths are said in mm, with these in the unit that is shown. */
export function said(words: string): string {
  if (shown === 'mm') return words;
  // What stands in quotes is what a person wrote.
  return words.replace(/“[^”]*”|((?:[−-]?\d+(?:\.\d+)?(?: [×/] )?)+) mm(?![²³\w])/g, (all, figures) =>
    figures === undefined
      ? all
      : `${figures.replace(/[−-]?\d+(?:\.\d+)?/g, (one: string) => length(Number(one.replace('−', '-'))))} in`,
  );
}

/** `1 3/8` where it is that, to 1/64. */
function fraction(inches: number): string {
  const parts = Math.round(Math.abs(inches) * PARTS);
  if (Math.abs(parts / PARTS - Math.abs(inches)) > EXACT) return '';
  const sign = inches < 0 && parts ? '-' : '';
  const whole = Math.floor(parts / PARTS);
  let [over, under] = [parts % PARTS, PARTS];
  if (!over) return `${sign}${whole}`;
  while (over % 2 === 0) [over, under] = [over / 2, under / 2];
  return `${sign}${whole ? `${whole} ` : ''}${over}/${under}`;
}
