import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { ENDPOINTS, type Endpoint } from './endpoints';
import { openApi, pathOf } from './openApi';

const ajv = new Ajv2020({ strict: false, schemas: [{ ...openApi(), $id: 'api' }] });
const validators = new Map<string, ValidateFunction>();

/** Which of the described things was asked for. */
export const endpointOf = (method: string, path: string): Endpoint | undefined =>
  ENDPOINTS.find(
    (each) =>
      each.method === method.toLowerCase() && new RegExp(`^/api${each.path.replaceAll(/:\w+/g, '[^/]+')}$`).test(path),
  );

function validatorAt(pointer: string): ValidateFunction {
  const validator = validators.get(pointer) ?? ajv.compile({ $ref: `api#${pointer}` });
  validators.set(pointer, validator);
  return validator;
}

/**
 * What an answer under /api is other than described; tests hold every answer they get against it.
 * @returns empty where it is as it should be, or where nothing is described
 */
export async function answerProblems(method: string, path: string, response: Response): Promise<readonly string[]> {
  const endpoint = endpointOf(method, path.replace(/\?.*$/, ''));
  if (endpoint === undefined) return [];
  const described = response.ok || response.status === 304;
  const answer = endpoint.answers[response.status];
  const named = `${method} ${endpoint.path}: ${response.status}`;
  if (described && answer === undefined) return [`${named} is not described`];
  const isJson = response.headers.get('content-type')?.startsWith('application/json') ?? false;
  if (described && (answer === null || typeof answer === 'string'))
    return answer === null && response.body !== null && (await response.clone().text()) !== ''
      ? [`${named} says something`]
      : [];
  if (!isJson) return [`${named} is no JSON`];
  const key = encodeURIComponent(pathOf(endpoint).replaceAll('~', '~0').replaceAll('/', '~1'));
  const validate = validatorAt(
    `/paths/${key}/${endpoint.method}/responses/${described ? response.status : 'default'}/content/application~1json/schema`,
  );
  if (validate(await response.clone().json())) return [];
  return (validate.errors ?? []).map(
    ({ instancePath, message, params }) => `${named}: ${instancePath} ${message} ${JSON.stringify(params)}`,
  );
}
