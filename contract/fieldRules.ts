/* What the fields of forms may hold: the server checks by these, and the forms say so before anything is sent. */

export const MOST_NAME_LETTERS = 60;
/** A name goes into names of files. */
export const PLAIN_NAME = /^[^\p{Cc}<>"|?*\\/:]*$/u;
export const MOST_NUMBER_SIGNS = 40;
export const STUDENT_NUMBER = /^[\p{L}\p{N} ._-]*$/u;
/** A code as a person may type it: with or without its dash, large or small. */
export const LINK_CODE = /^[0-9a-zA-Z -]{8,12}$/;
export const MOST_PIN_SIGNS = 200;
export const MOST_SUBJECT_LETTERS = 200;
export const MOST_MAIL_LETTERS = 5000;
