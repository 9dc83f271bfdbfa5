import type { View } from '../shell/views';
import ProofView from './ProofView.svelte';

export const VIEW: View = {
  name: 'proof',
  title: 'Proof',
  rank: 20,
  component: ProofView,
  keys: [
    ['0', 'show the whole piece'],
    ['+ −', 'closer, farther'],
    ['Escape', 'look at no finding'],
  ],
};
