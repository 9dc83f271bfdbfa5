import type { View } from '../shell/views';
import StitchesView from './StitchesView.svelte';

export const VIEW: View = {
  name: 'stitches',
  title: 'Stitches',
  rank: 35,
  component: StitchesView,
  keys: [
    ['Space', 'sew the rehearsal, or hold it'],
    ['← →', 'the letter before, and the next one'],
    ['Shift ← →', 'one stitch back, and on'],
    ['Home, End', 'the beginning, and the end'],
    ['0', 'show all of it'],
    ['+ −', 'closer, farther'],
    ['N', 'needle points'],
  ],
  help: 'The drawing shows the thread as it will lie. Drag the time to see it sewn stitch by stitch.',
};
