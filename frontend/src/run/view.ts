import type { View } from '../shell/views';
import RunView from './RunView.svelte';

export const VIEW: View = {
  name: 'run',
  title: 'Run',
  rank: 30,
  component: RunView,
  keys: [
    ['Space', 'play the rehearsal, or hold it'],
    ['← →', 'the line before, and the next one'],
    ['Home, End', 'the beginning, and the end'],
    ['0', 'show the whole sheet'],
    ['+ −', 'closer, farther'],
    ['Escape', 'choose no pass'],
  ],
  help: 'The drawing shows what each tool will do, and when. Drag the time to see any moment of it.',
};
