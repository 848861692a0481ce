import { getMetadataStorage } from 'class-validator';
import { targetConstructorToSchema } from 'class-validator-jsonschema';
import { typeOf } from '../../contract/nested';
import { OPERATION_BODIES } from '../../contract/operationBodies';
import { isOrNull } from '../../contract/orNull';

export type ContractClass = new () => object;

/** JSON Schema 2020-12, as far as it is used here. */
export interface Schema {
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly [keyword: string]: unknown;
}

const REFERENCES = '#/components/schemas/';
export const referenceTo = ({ name }: ContractClass): Schema => ({ $ref: REFERENCES + name });

const POINT = { type: 'object', properties: { x: { type: 'number' }, y: { type: 'number' } }, required: ['x', 'y'] };
/** What our own decorators check. */
const OWN_CHECKS = {
  arePoints: ({ constraints }: { readonly constraints: readonly number[] }) => ({
    type: 'array',
    minItems: 1,
    maxItems: constraints[0],
    items: POINT,
  }),
  isBends: {
    type: 'array',
    minItems: 4,
    maxItems: 4,
    items: { type: 'array', minItems: 3, maxItems: 3, items: { type: 'number', minimum: -1, maximum: 1 } },
  },
  areCourseNames: { type: 'object', additionalProperties: { $ref: `${REFERENCES}NamePatternBody` } },
};
const OPTIONS = {
  additionalConverters: OWN_CHECKS,
  refPointerPrefix: REFERENCES,
  // it asks class-transformer's store; ours knows the same
  classTransformerMetadataStorage: {
    findTypeMetadata: (target: ContractClass, property: string) => ({
      typeFunction: () => typeOf(target.prototype as object, property),
    }),
    findExcludeMetadata: () => undefined,
    getExposedMetadatas: () => [],
  },
} as unknown as Parameters<typeof targetConstructorToSchema>[1];

const KINDS = new Map<ContractClass, string>(Object.entries(OPERATION_BODIES).map(([kind, body]) => [body, kind]));

/** One class: nothing beside what it names, and null where it allows null. */
function schemaOf(body: ContractClass): Schema {
  const { properties = {}, required = [] } = targetConstructorToSchema(body, OPTIONS) as unknown as Schema;
  const mayBeNull = new Set<string>();
  const needed = new Set(required);
  for (const check of getMetadataStorage().getTargetValidationMetadatas(body, '', true, false)) {
    const orNull = isOrNull(check.constraints?.[0]);
    // the package takes each condition for "may be missing"
    if (orNull) needed.add(check.propertyName);
    if (orNull || check.name === 'isOptional') mayBeNull.add(check.propertyName);
  }
  const kind = KINDS.get(body);
  const all = Object.entries(properties).map(([name, property]): [string, Schema] => [
    name,
    mayBeNull.has(name) ? { anyOf: [property, { type: 'null' }] } : property,
  ]);
  return {
    type: 'object',
    properties: { ...Object.fromEntries(all), ...(kind === undefined ? {} : { kind: { const: kind } }) },
    required: [...needed],
    additionalProperties: false,
  };
}

/** These classes and all that they are made of, by their names. */
export function schemasOf(bodies: readonly ContractClass[]): Record<string, Schema> {
  const schemas: Record<string, Schema> = {};
  const waiting = [...bodies];
  for (let body = waiting.pop(); body !== undefined; body = waiting.pop()) {
    if (schemas[body.name] !== undefined) continue;
    schemas[body.name] = schemaOf(body);
    for (const property of Object.keys(schemas[body.name]!.properties!)) {
      const type = typeOf(body.prototype as object, property);
      if (type !== undefined && type !== Number) waiting.push(type as ContractClass);
    }
  }
  return schemas;
}
