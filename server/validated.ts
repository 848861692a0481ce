import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { FotoplanError } from '../core/errors';
import { OPERATION_BODIES } from '../contract/operationBodies';
import type { Operation } from '../core/handIn/operation';

/** Turns a parsed body into a checked instance of its contract class, or refuses it with what is wrong. */
export function validated<T extends object>(body: new () => T, raw: unknown): T {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw)) throw new FotoplanError('BODY_INVALID', 'Send a JSON object.');
  const instance = plainToInstance(body, raw);
  const [problem] = validateSync(instance, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true });
  if (problem !== undefined) throw new FotoplanError('BODY_INVALID', `${firstMessage(problem)}.`);
  return instance;
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
  const body = typeof kind === 'string' && Object.hasOwn(OPERATION_BODIES, kind) ? OPERATION_BODIES[kind as Operation['kind']] : undefined;
  if (body === undefined) throw new FotoplanError('BODY_INVALID', `kind must be one of ${Object.keys(OPERATION_BODIES).join(', ')}.`);
  return JSON.parse(JSON.stringify(validated(body, raw))) as Operation;
}
