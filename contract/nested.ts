import { Type } from 'class-transformer';
import { ValidateNested } from 'class-validator';

type Body = new () => object;

/** For each class's prototype, what its properties are made of. */
const types = new Map<object, Map<string | symbol, () => Body | typeof Number>>();

function declare(type: () => Body | typeof Number): PropertyDecorator {
  return (prototype, property) => {
    const own = types.get(prototype) ?? new Map<string | symbol, () => Body | typeof Number>();
    types.set(prototype, own.set(property, type));
    // the forms' resolver makes its instances by class-transformer
    Type(type)(prototype, property);
  };
}

/** A property that is checked by a class of its own; in a list, each of its elements. */
export function Nested(type: () => Body, { each = false } = {}): PropertyDecorator {
  return (prototype, property) => {
    declare(type)(prototype, property);
    ValidateNested({ each })(prototype, property);
  };
}

/** A number that comes as text, in a query or a form. */
export const NumberInText = (): PropertyDecorator => declare(() => Number);

/** What a property is made of, where it is declared; a class's own declaration goes before an inherited one. */
export function typeOf(prototype: object | null, property: string): Body | typeof Number | undefined {
  for (let at = prototype; at !== null; at = Object.getPrototypeOf(at) as object | null) {
    const type = types.get(at)?.get(property);
    if (type !== undefined) return type();
  }
  return undefined;
}

/**
 * An instance of a contract class, with instances in it where its properties are declared so. What has no class of its own is
 * taken over as it is, not copied: there may be ten thousand points.
 * @param raw - without the keys __proto__ and constructor
 */
export function instanceOf<T extends object>(body: new () => T, raw: object): T {
  const made = (type: Body | typeof Number, value: unknown): unknown => {
    if (type === Number) return typeof value === 'string' && value.trim() !== '' ? Number(value) : value;
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? instanceOf(type as Body, value)
      : value;
  };
  const instance = new body();
  for (const [key, value] of Object.entries(raw) as [string, unknown][]) {
    const type = typeOf(body.prototype as object, key);
    (instance as Record<string, unknown>)[key] =
      type === undefined ? value : Array.isArray(value) ? value.map((each) => made(type, each)) : made(type, value);
  }
  return instance;
}
