/** The kinds of guide a maker can add: their pictures, their first sizes, their figures. */

import type { Guide } from '../api/client';

export type Kind = Guide['kind'];
/** A guide before it has an id; what it leaves out, the core fills in. */
export type Recipe = { kind: Kind } & Record<string, unknown>;
type Unit = 'mm' | '°' | '×' | '%' | '';

/** A figure of a guide, as the particulars show it. */
export interface Figure {
  field: string;
  label: string;
  unit?: Unit;
  shownAs?: number;
}

export interface Option {
  kind: Kind;
  name: string;
  /** Path data in a box of 44 × 32. */
  picture: string;
  /** The recipe to begin with, for a blank of this size, mm. */
  recipe: (size: number) => Recipe;
}

const round = (value: number): number => Number(value.toPrecision(2));

export const OPTIONS: Option[] = [
  {
    kind: 'circle',
    name: 'ring',
    picture: 'M11 16a11 11 0 1 1 22 0a11 11 0 1 1 -22 0',
    recipe: (size) => ({ kind: 'circle', diameter: round(0.7 * size), start: 180 }),
  },
  {
    kind: 'arch',
    name: 'arch',
    picture: 'M6 24C12 10 32 10 38 24',
    recipe: (size) => ({ kind: 'arch', chord: round(0.7 * size), rise: round(0.18 * size) }),
  },
  {
    kind: 'arc',
    name: 'arc',
    picture: 'M8 20A15 15 0 0 1 36 20M22 24L36 20',
    recipe: (size) => ({ kind: 'arc', radius: round(0.36 * size), angle: 140 }),
  },
  {
    kind: 'arc-through',
    name: 'three points',
    picture: 'M7 23C12 9 30 7 38 21M5.5 23h3M20 10.5h3M36.5 21h3',
    recipe: (size) => ({
      kind: 'arc-through',
      points: [
        [-round(0.35 * size), 0],
        [0, round(0.15 * size)],
        [round(0.35 * size), 0],
      ],
    }),
  },
  {
    kind: 'ellipse',
    name: 'ellipse',
    picture: 'M6 16a16 9 0 1 1 32 0a16 9 0 1 1 -32 0',
    recipe: (size) => ({ kind: 'ellipse', width: round(0.8 * size), height: round(0.5 * size) }),
  },
  {
    kind: 'line',
    name: 'straight',
    picture: 'M6 16H38',
    recipe: (size) => ({ kind: 'line', length: round(0.8 * size) }),
  },
  {
    kind: 'wave',
    name: 'wave',
    picture: 'M4 16c4.5-11 7.5-11 12 0s7.5 11 12 0s7.5-11 12 0',
    recipe: (size) => ({
      kind: 'wave',
      length: round(0.3 * size),
      height: round(0.07 * size),
      waves: 3,
    }),
  },
  {
    kind: 'wave',
    name: 'arch and valley',
    picture: 'M5 18c6-13 11-13 17 0s11 11 17 -2',
    recipe: (size) => ({
      kind: 'wave',
      length: round(0.85 * size),
      height: round(0.14 * size),
      waves: 1,
    }),
  },
  {
    kind: 'spiral',
    name: 'spiral',
    picture: 'M22 16c2-3 6 0 4 4s-11 3-11-4s10-11 16-6s4 17-7 18',
    recipe: (size) => ({
      kind: 'spiral',
      inner: round(0.2 * size),
      outer: round(0.85 * size),
      turns: 4,
      inward: true,
    }),
  },
  {
    kind: 'growing-spiral',
    name: 'shell',
    picture: 'M21 19c1-2 4 0 2 3s-8 0-7-5s10-9 17-3s1 17-12 16',
    recipe: (size) => ({
      kind: 'growing-spiral',
      inner: round(0.1 * size),
      growth: 1.8,
      turns: 3,
      inward: true,
    }),
  },
  {
    kind: 'rectangle',
    name: 'rectangle',
    picture: 'M10 6H34a3 3 0 0 1 3 3V23a3 3 0 0 1 -3 3H10a3 3 0 0 1 -3 -3V9a3 3 0 0 1 3 -3Z',
    recipe: (size) => ({
      kind: 'rectangle',
      width: round(0.7 * size),
      height: round(0.45 * size),
      radius: 0,
    }),
  },
  {
    kind: 'polygon',
    name: 'polygon',
    picture: 'M16 5H28L36 16L28 27H16L8 16Z',
    recipe: (size) => ({ kind: 'polygon', sides: 6, across: round(0.7 * size) }),
  },
  {
    kind: 'star',
    name: 'star',
    picture: 'M22 4L25.5 12.5L35 13L27.8 18.8L30.2 28L22 23L13.8 28L16.2 18.8L9 13L18.5 12.5Z',
    recipe: (size) => ({
      kind: 'star',
      tips: 8,
      outer: round(0.75 * size),
      inner: round(0.55 * size),
    }),
  },
  {
    kind: 'superellipse',
    name: 'soft square',
    picture: 'M22 5C34 5 36 7 36 16S34 27 22 27S8 25 8 16S10 5 22 5Z',
    recipe: (size) => ({
      kind: 'superellipse',
      width: round(0.7 * size),
      height: round(0.55 * size),
      exponent: 3.5,
    }),
  },
];

/** Guides made from other guides: what they are called and how they look. */
export const DERIVED = [
  { kind: 'parallel', name: 'parallel', picture: 'M5 24C14 8 30 8 39 24M11 26C18 15 26 15 33 26' },
  { kind: 'between', name: 'middle line', picture: 'M5 10C16 4 28 16 39 8M5 26C16 18 28 30 39 24M5 18c11-7 23 5 34-2' },
  { kind: 'laid-flat', name: 'laid flat', picture: 'M6 12C12 0 32 0 38 12M4 24H40' },
] as const;

export const DRAWN = [
  { tool: 'points', name: 'by points', picture: 'M6 22C12 4 20 8 24 16S34 26 39 9M4.5 22h3M22.5 16h3M37.5 9h3' },
  { tool: 'freehand', name: 'freehand', picture: 'M5 20c5-14 8-10 8-2s5 9 9-2s6-12 8-3s6 8 9-2' },
] as const;

const BOX: Figure[] = [
  { field: 'width', label: 'Width' },
  { field: 'height', label: 'Height' },
];

/** The figures of each kind, beside those of its size that can be given in several ways. */
export const FIGURES: Record<Kind, Figure[]> = {
  circle: [{ field: 'start', label: 'Starts at (the seam)', unit: '°' }],
  arc: [
    { field: 'radius', label: 'Radius' },
    { field: 'angle', label: 'Angle', unit: '°' },
  ],
  arch: [
    { field: 'chord', label: 'Chord' },
    { field: 'rise', label: 'Rise' },
  ],
  'arc-through': [],
  ellipse: [
    ...BOX,
    { field: 'start', label: 'Starts at', unit: '°' },
    { field: 'angle', label: 'Angle', unit: '°' },
  ],
  line: [{ field: 'length', label: 'Length' }],
  'laid-flat': [],
  wave: [
    { field: 'length', label: 'Length of a wave' },
    { field: 'height', label: 'Height' },
    { field: 'waves', label: 'Waves', unit: '' },
    { field: 'phase', label: 'Phase', unit: '°' },
  ],
  spiral: [{ field: 'start', label: 'Starts at', unit: '°' }],
  'growing-spiral': [
    { field: 'growth', label: 'Growth a turn', unit: '×' },
    { field: 'start', label: 'Starts at', unit: '°' },
  ],
  rectangle: [...BOX, { field: 'radius', label: 'Corner radius' }],
  polygon: [
    { field: 'sides', label: 'Sides', unit: '' },
    { field: 'across', label: 'Across corners' },
    { field: 'radius', label: 'Corner radius' },
  ],
  star: [
    { field: 'tips', label: 'Tips', unit: '' },
    { field: 'outer', label: 'Tips lie on ⌀' },
    { field: 'inner', label: 'Valleys on ⌀' },
    { field: 'tip_radius', label: 'Tip radius' },
    { field: 'valley_radius', label: 'Valley radius' },
  ],
  superellipse: [...BOX, { field: 'exponent', label: 'Exponent', unit: '' }],
  drawn: [],
  path: [],
  between: [{ field: 'share', label: 'Share of the way', unit: '%', shownAs: 100 }],
  parallel: [{ field: 'distance', label: 'Distance, left positive' }],
};

/** Figures of which one or two give the size: groups in which a person chooses. */
export const WAYS: Partial<Record<Kind, { of: number; figures: Figure[] }[]>> = {
  circle: [
    {
      of: 1,
      figures: [
        { field: 'diameter', label: 'Diameter' },
        { field: 'radius', label: 'Radius' },
        { field: 'round', label: 'Length round' },
      ],
    },
  ],
  spiral: [
    {
      of: 1,
      figures: [
        { field: 'inner', label: 'Inner diameter' },
        { field: 'start_radius', label: 'Start radius' },
      ],
    },
    {
      of: 2,
      figures: [
        { field: 'outer', label: 'Outer diameter' },
        { field: 'gain', label: 'Gain a turn' },
        { field: 'turns', label: 'Turns', unit: '' },
        { field: 'length', label: 'Length' },
      ],
    },
  ],
  'growing-spiral': [
    {
      of: 1,
      figures: [
        { field: 'inner', label: 'Inner diameter' },
        { field: 'start_radius', label: 'Start radius' },
      ],
    },
    {
      of: 1,
      figures: [
        { field: 'outer', label: 'Outer diameter' },
        { field: 'turns', label: 'Turns', unit: '' },
        { field: 'length', label: 'Length' },
      ],
    },
  ],
};

/** The kinds whose recipe says which way they turn. */
export const TURNING: Kind[] = [
  'circle',
  'ellipse',
  'spiral',
  'growing-spiral',
  'rectangle',
  'polygon',
  'star',
  'superellipse',
];

export const KIND_NAMES: Record<Kind, string> = {
  circle: 'circle',
  arc: 'arc',
  arch: 'arch',
  'arc-through': 'arc through three points',
  ellipse: 'ellipse',
  line: 'straight line',
  'laid-flat': 'laid flat',
  wave: 'wave',
  spiral: 'spiral',
  'growing-spiral': 'growing spiral',
  rectangle: 'rectangle',
  polygon: 'polygon',
  star: 'star',
  superellipse: 'superellipse',
  drawn: 'drawn line',
  path: 'line from a file',
  between: 'middle line',
  parallel: 'parallel',
};
