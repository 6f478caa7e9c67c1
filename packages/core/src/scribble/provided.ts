// Whoever imports this can select by strokes.
import { selectionInto } from './selection.ts';
import { provideSelector } from './selector.ts';

provideSelector(selectionInto);
