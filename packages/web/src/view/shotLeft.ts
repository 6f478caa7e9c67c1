import { createAction } from '@reduxjs/toolkit';

/** Another shot has come into view: what belonged to the one before is over. Told by the store, not by hand. */
export const shotLeft = createAction('where/shotLeft');
