import { NamePatternBody, OPERATION_BODIES } from '../../contract/operationBodies';
import { ErrorView } from '../../contract/views';
import { ERROR_CODES } from '../../core/errors';
import { version } from '../../package.json';
import { ENDPOINTS, OperationsBody, type Endpoint } from './endpoints';
import { referenceTo, schemasOf, type ContractClass, type Schema } from './schemas';

interface Described {
  readonly summary: string;
  readonly responses: Readonly<Record<string, unknown>>;
}
export interface OpenApi {
  readonly openapi: '3.1.0';
  readonly info: { readonly title: string; readonly version: string; readonly description: string };
  readonly servers: readonly { readonly url: string }[];
  readonly paths: Readonly<Record<string, Readonly<Record<string, Described>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
}

const MOST_OPERATIONS = 200;
const DESCRIPTION =
  'What the Fotoplan app asks of its server. Whose work it is tells a cookie, which the first request that keeps something sets; ' +
  'every id is made by the device, so that what is sent twice is kept once. A refusal is an ErrorView: the code is for programs, the message for people.';

/** Express's :names as OpenAPI has them. */
export const pathOf = ({ path }: Pick<Endpoint, 'path'>): string => path.replaceAll(/:(\w+)/g, '{$1}');

const content = (of: ContractClass | string): unknown =>
  typeof of === 'string' ? { [of]: { schema: {} } } : { 'application/json': { schema: referenceTo(of) } };

const MEANINGS: Readonly<Record<number, string>> = {
  200: 'Done',
  201: 'Kept',
  204: 'Done; there is nothing to say',
  304: 'What the asker has is still so',
};

function described({ path, summary, query, body, answers }: Endpoint): Described {
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = query === undefined ? {} : schemasOf([query])[query.name]!;
  const inQuery = Object.entries(asked.properties ?? {}).map(([name, schema]) => ({
    name,
    in: 'query',
    required: asked.required!.includes(name),
    schema,
  }));
  const sent = body === OperationsBody ? { 'application/json': { schema: OPERATIONS } } : body && content(body);
  return {
    summary,
    parameters: [...inPath, ...inQuery],
    ...(sent === undefined ? {} : { requestBody: { required: true, content: sent } }),
    responses: {
      ...Object.fromEntries(
        Object.entries(answers).map(([status, answer]) => [
          status,
          { description: MEANINGS[Number(status)], ...(answer === null ? {} : { content: content(answer) }) },
        ]),
      ),
      default: { description: 'Refused', content: content(ErrorView) },
    },
  } as Described;
}

const OPERATIONS: Schema = {
  type: 'object',
  properties: {
    operations: {
      type: 'array',
      minItems: 1,
      maxItems: MOST_OPERATIONS,
      items: {
        oneOf: Object.values(OPERATION_BODIES).map(referenceTo),
      },
    },
  },
  required: ['operations'],
  additionalProperties: false,
};

/** Everything under /api as OpenAPI 3.1, made from the contract's classes. */
export function openApi(): OpenApi {
  const isClass = (of: unknown): of is ContractClass => typeof of === 'function' && of !== OperationsBody;
  const schemas = schemasOf([
    ...ENDPOINTS.flatMap(({ body, answers }) => [body, ...Object.values(answers)].filter(isClass)),
    ...Object.values(OPERATION_BODIES),
    NamePatternBody,
    ErrorView,
  ]);
  const { properties } = schemas[ErrorView.name]!;
  schemas[ErrorView.name] = {
    ...schemas[ErrorView.name],
    properties: { ...properties, code: { enum: [...ERROR_CODES] } },
  };
  const paths: Record<string, Record<string, Described>> = {};
  for (const endpoint of ENDPOINTS)
    paths[pathOf(endpoint)] = { ...paths[pathOf(endpoint)], [endpoint.method]: described(endpoint) };
  return {
    openapi: '3.1.0',
    info: { title: 'Fotoplan', version, description: DESCRIPTION },
    servers: [{ url: '/api' }],
    paths,
    components: { schemas },
  };
}
