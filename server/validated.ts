import { validateSync, type ValidationError } from 'class-validator';
import { FotoplanError } from '../core/errors';
import { instanceOf } from '../contract/nested';
import { OPERATION_BODIES } from '../contract/operationBodies';
import type { Operation } from '../core/work/hand-in/operation';

/** Turns a parsed body into a checked instance of its contract class, or refuses it with what is wrong. */
export function validated<T extends object>(body: new () => T, raw: unknown): T {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new FotoplanError('BODY_INVALID', 'Send a JSON object.');
  refuseWild(raw);
  const instance = instanceOf(body, raw);
  const [problem] = validateSync(instance, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true });
  if (problem !== undefined) throw new FotoplanError('BODY_INVALID', `${firstMessage(problem)}.`);
  return instance;
}

/** Deeper and larger than anything of ours; looked at before any work is done on it. */
const MOST_DEPTH = 20;
const MOST_VALUES = 100_000;
/** They mean something to JavaScript itself. */
const FORBIDDEN_KEYS = new Set(['__proto__', 'constructor', 'prototype', 'toString', 'valueOf', 'toJSON']);

function refuseWild(raw: object): void {
  let level: readonly unknown[] = [raw];
  let values = 0;
  for (let depth = 0; level.length > 0; depth++) {
    values += level.length;
    if (depth > MOST_DEPTH || values > MOST_VALUES)
      throw new FotoplanError(
        'BODY_INVALID',
        `That is more than one thing can hold: at most ${MOST_VALUES} values, ${MOST_DEPTH} deep.`,
      );
    const next: unknown[] = [];
    for (const value of level) {
      if (typeof value !== 'object' || value === null) continue;
      for (const [key, inner] of Object.entries(value)) {
        if (FORBIDDEN_KEYS.has(key)) throw new FotoplanError('BODY_INVALID', `“${key}” cannot be a name here.`);
        next.push(inner);
      }
    }
    level = next;
  }
}

function firstMessage(error: ValidationError): string {
  const [own] = Object.values(error.constraints ?? {});
  if (own !== undefined) return own;
  const [child] = error.children ?? [];
  return child === undefined ? `${error.property} is wrong` : firstMessage(child);
}

/** Checks one operation by its kind. */
export function validatedOperation(raw: unknown): Operation {
  const kind = (raw as { kind?: unknown } | null)?.kind;
  const body =
    typeof kind === 'string' && Object.hasOwn(OPERATION_BODIES, kind)
      ? OPERATION_BODIES[kind as Operation['kind']]
      : undefined;
  if (body === undefined)
    throw new FotoplanError('BODY_INVALID', `kind must be one of ${Object.keys(OPERATION_BODIES).join(', ')}.`);
  return JSON.parse(JSON.stringify(validated(body, raw))) as Operation;
}
