import type { View } from '../shell/views';
import NamesView from './NamesView.svelte';

export const VIEW: View = {
  name: 'names',
  title: 'Names',
  rank: 40,
  component: NamesView,
  keys: [
    ['← →', 'the row before, and the next one'],
    ['Escape', 'no row chosen'],
  ],
  help: 'Words such as {name} are filled from the list. Rows that do not fit come first.',
};
