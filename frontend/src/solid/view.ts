import type { View } from '../shell/views';
import SolidView from './SolidView.svelte';

export const VIEW: View = {
  name: 'solid',
  title: 'Solid',
  rank: 37,
  component: SolidView,
  keys: [
    ['← → ↑ ↓', 'turn the part'],
    ['1 2 3 4 5', 'seen aslant, from the front, from above, from the right, from the back'],
    ['0', 'show all of it'],
    ['+ −', 'closer, farther'],
    ['M', 'measure between two places'],
  ],
  help: 'The part as it will be made. Drag to turn it, with the right button to move it; the wheel comes closer.',
};
