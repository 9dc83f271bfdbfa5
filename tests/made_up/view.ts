import type { View } from '../shell/views';
import LoudView from './LoudView.svelte';

export const VIEW: View = {
  name: 'loud',
  title: 'Loud',
  rank: 90,
  component: LoudView,
  keys: [['S', 'shout']],
};
