import type { View } from '../shell/views';
import LayoutView from './LayoutView.svelte';

export const VIEW: View = {
  name: '',
  title: 'Layout',
  rank: 10,
  component: LayoutView,
  keys: [
    ['← →', 'slide the lettering along its guide by 0.1 mm; letters under 4 mm by 0.01'],
    ['↑ ↓', 'move it away from the guide and back by 0.1 mm'],
    ['Shift with an arrow', 'the same by 1 mm'],
    ['a letter chosen', 'the same arrows move it alone; Delete puts it back'],
    ['[ ]', 'close and open the gap after the chosen letters by 0.1 mm, with Shift by 1 mm'],
    [', .', 'the letter before, and the next one'],
    ['D', 'show or hide the figures on the drawing'],
    ['E', 'gaps even, then all the same, then as the face has them'],
    ['B held', 'the gaps as the face has them, to compare'],
    ['Ctrl C, Ctrl V', 'copy what is chosen, and paste it here or in another piece'],
    ['Ctrl D', 'what is chosen a second time'],
    ['Ctrl with a click', 'one more lettering or guide, or one less; Shift in the list: all between'],
    ['Ctrl A', 'choose every lettering'],
    ['Alt with ↑ ↓', 'in the list: the entry up or down'],
    ['0', 'show the whole piece'],
    ['1', 'show this lettering'],
    ['+ −', 'closer, farther'],
    ['arrows on a guide or point', 'move it by 0.1 mm, with Shift by 1 mm'],
    ['M', 'measure the guide; C copies what was measured'],
    ['Enter', 'end a line that is being drawn'],
    ['Delete', 'remove the chosen point, lettering or guide'],
    ['Escape', 'step back: tool, point, lettering, guide, nothing'],
    ['arrows, nothing chosen', 'move the view'],
  ],
  help:
    'Drag letters on the drawing or on the strip to slide them. Drag the ground to move the view; ' +
    'the wheel zooms. Click any figure on the drawing to type it: 25.4/2 and 3/8in are understood. ' +
    'Double-click a drawn line to add a point.',
};
