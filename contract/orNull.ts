import { ValidateIf } from 'class-validator';

const isNotNull = (_body: object, value: unknown): boolean => value !== null;

/** A property that must be there, though it may be null; the other decorators say what it is otherwise. */
export const OrNull = (): PropertyDecorator => ValidateIf(isNotNull);

/** Whether a condition of class-validator is OrNull's. */
export const isOrNull = (condition: unknown): boolean => condition === isNotNull;
