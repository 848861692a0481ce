/** The word that is typed before everything is deleted, so that no slip of the finger does it. */
export const DELETE_WORD = 'delete';
