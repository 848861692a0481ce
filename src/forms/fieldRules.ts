import { t } from '@lingui/core/macro';
import {
  LINK_CODE,
  MOST_MAIL_LETTERS,
  MOST_NAME_LETTERS,
  MOST_NUMBER_SIGNS,
  MOST_PIN_SIGNS,
  MOST_SUBJECT_LETTERS,
  PLAIN_NAME,
  STUDENT_NUMBER,
} from '../../contract/fieldRules';
import type { FieldRules } from '../ui/TextField';

const atMost = (value: number): FieldRules['maxLength'] => ({ value, message: t`At most ${value} letters.` });

export const nameRules = (): FieldRules => ({
  maxLength: atMost(MOST_NAME_LETTERS)!,
  pattern: { value: PLAIN_NAME, message: t`Write the name without < > " | ? * \\ / or :.` },
});

export const studentNumberRules = (): FieldRules => ({
  maxLength: atMost(MOST_NUMBER_SIGNS)!,
  pattern: {
    value: STUDENT_NUMBER,
    message: t`Letters, digits, spaces, dots and dashes only, as on your student card.`,
  },
});

export const signInNumberRules = (): FieldRules => ({
  required: t`Write the number on your student card.`,
  maxLength: atMost(MOST_NUMBER_SIGNS)!,
});

export const pinRules = (): FieldRules => ({
  required: t`Write your PIN or password.`,
  maxLength: atMost(MOST_PIN_SIGNS)!,
});

export const linkCodeRules = (): FieldRules => {
  const message = t`The code has eight letters and digits, as the other screen shows it.`;
  return { required: message, pattern: { value: LINK_CODE, message } };
};

/** Whether a mail can be sent there is for the server to say. */
const MAIL_ADDRESS = /^[^\s@,;]+@[^\s@,;]+\.[^\s@,;]+$/;

export const mailAddressRules = (): FieldRules => {
  const message = t`Write one mail address, such as office@skerrypoint.example.`;
  return { required: message, pattern: { value: MAIL_ADDRESS, message } };
};

export const subjectRules = (): FieldRules => ({
  required: t`Write what it is about.`,
  maxLength: atMost(MOST_SUBJECT_LETTERS)!,
});

export const mailTextRules = (): FieldRules => ({ maxLength: atMost(MOST_MAIL_LETTERS)! });
