import { IsBoolean, IsIn, IsInt, IsNotEmpty, IsString, Matches, Max, Min, validateSync } from 'class-validator';

const LOG_LEVELS = ['silent', 'error', 'warn', 'info', 'debug'] as const;
const NAMES_A_BUCKET = 'is needed where BLOB_BUCKET is set';

/** Every setting of the server, with its default. Nothing else of the server reads the environment. */
export class Config {
  @IsInt() @Min(0) @Max(65_535) PORT = 4310;
  @IsString() HOST = '';
  @IsBoolean() LAN = false;
  @IsString() @IsNotEmpty() DATA_DIR = 'data';
  @IsBoolean() DEMO = false;
  @Matches(/^(https?:\/\/[^/\s?#]+)?$/, {
    message: 'must be an address without a path, such as https://fotoplan.skerry.example',
  })
  PUBLIC_URL = '';
  @IsInt() @Min(0) @Max(10) TRUST_PROXY = 0;
  @IsIn(LOG_LEVELS) LOG_LEVEL: string = 'info';
  @IsInt() @Min(1) @Max(1_000_000) REQUESTS_A_MINUTE = 3000;
  @IsInt() @Min(1) @Max(1_000_000) NEWCOMERS_A_MINUTE = 600;
  @IsInt() @Min(1) @Max(10_000_000) QUOTA_MB = 4000;
  @IsBoolean() CHECKPOINTS = true;
  @IsBoolean() ALLOW_MISSING_BYTES = false;
  @IsString() METRICS_TOKEN = '';
  @IsString() BLOB_BUCKET = '';
  @IsString() S3_ENDPOINT = '';
  @IsString() S3_REGION = 'us-east-1';
  @IsString() S3_ACCESS_KEY_ID = '';
  @IsString() S3_SECRET_ACCESS_KEY = '';
}

/** What each setting is for; docs/operating.md is made from this. */
export const SETTINGS: Readonly<Record<keyof Config, string>> = {
  PORT: 'Where the server listens. Where it is taken, one of the next 50 is used; 0 takes any free one.',
  HOST: 'The address it listens on. Empty: 127.0.0.1, and with LAN every address of this computer.',
  LAN: '1: https with a certificate of its own, for phones on the same network (what `npm run demo -- --lan` sets).',
  DATA_DIR: 'The folder with all data.',
  DEMO: '1: example work for every newcomer, accounts whose PINs are in the README, the office’s weather. Only in a data folder of its own.',
  PUBLIC_URL:
    'The address that people open, behind a proxy with TLS. Cookies are then Secure, browsers are told to use https only, and requests from pages of any other address are refused.',
  TRUST_PROXY:
    'How many proxies stand before the server. People are then told apart by the address that the proxies forward.',
  LOG_LEVEL: `One of ${LOG_LEVELS.join(', ')}. From info on, each request is a line.`,
  REQUESTS_A_MINUTE: 'By one person.',
  NEWCOMERS_A_MINUTE:
    'People who begin, from one address, behind which a whole campus may be. Who has kept nothing yet may ask ten times as often.',
  QUOTA_MB: 'What one person’s photos, uploads and bound files may weigh together.',
  CHECKPOINTS: '0: a replication tool owns the checkpoints of the SQLite files, and the server makes none.',
  ALLOW_MISSING_BYTES:
    '1: the server starts although bytes of photos that are listed are missing. Devices that still have them send them again.',
  METRICS_TOKEN: 'Who sends it as a bearer token may read /metrics. Empty: nobody may.',
  BLOB_BUCKET: 'A bucket for photos and bound files. Empty: they lie in SQLite.',
  S3_ENDPOINT: 'The address of the object storage, where it is not Amazon’s.',
  S3_REGION: 'Its region.',
  S3_ACCESS_KEY_ID: 'Needed with BLOB_BUCKET.',
  S3_SECRET_ACCESS_KEY: 'Needed with BLOB_BUCKET.',
};

const WORDS: Readonly<Record<string, boolean>> = { '1': true, true: true, '0': false, false: false };

/**
 * @param env - the process's environment; an empty value is none
 * @throws Error with a line for each setting that cannot be used
 */
export function readConfig(env: Readonly<Record<string, string | undefined>>): Config {
  const config = new Config();
  for (const name of Object.keys(SETTINGS) as (keyof Config)[]) {
    const value = env[name];
    if (value !== undefined && value !== '') Object.assign(config, { [name]: read(value, config[name]) });
  }
  const problems = validateSync(config).map(
    ({ property, value, constraints }) =>
      `${property}=${String(value)}: ${(constraints?.['isInt'] ?? Object.values(constraints ?? {})[0])?.replace(`${property} `, '') ?? 'cannot be used'}.`,
  );
  if (config.BLOB_BUCKET !== '')
    for (const name of ['S3_ACCESS_KEY_ID', 'S3_SECRET_ACCESS_KEY'] as const)
      if (config[name] === '') problems.push(`${name} ${NAMES_A_BUCKET}.`);
  if (problems.length > 0) throw new Error(`The server does not start with these settings:\n${problems.join('\n')}`);
  return config;
}

/** In the type of the default; what is no such thing stays text, which the check then refuses. */
function read(text: string, standard: unknown): unknown {
  if (typeof standard === 'boolean') return WORDS[text.toLowerCase()] ?? text;
  if (typeof standard === 'number') return /^\d+$/.test(text) ? Number(text) : text;
  return text;
}
