import { Readable } from 'node:stream';
import { FotoplanError } from '../../core/errors';
import type { BytePlace } from './blobStore';

export interface S3Settings {
  readonly bucket: string;
  /** Where it is not the provider's own address. */
  readonly endpoint?: string;
  readonly region: string;
  readonly accessKeyId: string;
  readonly secretAccessKey: string;
}

/** The kit for it is loaded only where there is a bucket: it takes 20 MB of memory. */
async function connect({ endpoint, region, accessKeyId, secretAccessKey }: S3Settings) {
  const [s3, { Upload }] = await Promise.all([import('@aws-sdk/client-s3'), import('@aws-sdk/lib-storage')]);
  const client = new s3.S3Client({
    region,
    credentials: { accessKeyId, secretAccessKey },
    ...(endpoint === undefined ? {} : { endpoint, forcePathStyle: true }),
    // a store that does not answer must not hold an upload's place for ever
    requestHandler: { connectionTimeout: 5000, requestTimeout: 60_000 },
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
  });
  return { ...s3, Upload, client };
}

/** What is not there is told by the store itself; everything else means that it could not be asked. */
async function reached<T>(asked: Promise<T>): Promise<T | null> {
  try {
    return await asked;
  } catch (cause) {
    if (['NotFound', 'NoSuchKey'].includes((cause as Error).name)) return null;
    throw new FotoplanError(
      'STORE_UNREACHABLE',
      'The server cannot reach its store for photos and files just now. What was made stays on this device and is sent again by itself.',
      {},
      { cause },
    );
  }
}

/**
 * The bytes as objects in S3-compatible storage, each under its SHA-256; its own check sums guard them on the way. Everything
 * rejects with FotoplanError STORE_UNREACHABLE where the store cannot be asked.
 */
export function createS3Place(settings: S3Settings): BytePlace {
  const { bucket } = settings;
  const connected = connect(settings);
  const at = (sha256: string) => ({ Bucket: bucket, Key: `${sha256.slice(0, 2)}/${sha256}` });
  return {
    async holds(sha256, bytes) {
      const { client, HeadObjectCommand } = await connected;
      return (await reached(client.send(new HeadObjectCommand(at(sha256)))))?.ContentLength === bytes;
    },
    async write(sha256, bytes) {
      const { client, PutObjectCommand } = await connected;
      await reached(client.send(new PutObjectCommand({ ...at(sha256), Body: bytes, ContentLength: bytes.length })));
    },
    async writePieces(sha256, _bytes, pieces) {
      const { client, Upload } = await connected;
      // in parts, each of which is in memory while it goes; the object is there once all of them are
      await reached(
        new Upload({ client, params: { ...at(sha256), Body: Readable.from(pieces) }, queueSize: 1 }).done(),
      );
    },
    async *read(sha256) {
      const { client, GetObjectCommand } = await connected;
      const found = await reached(client.send(new GetObjectCommand(at(sha256))));
      if (found !== null) yield* found.Body as Readable as AsyncIterable<Uint8Array>;
    },
    async remove(sha256) {
      const { client, DeleteObjectCommand } = await connected;
      await reached(client.send(new DeleteObjectCommand(at(sha256))));
    },
    // the bucket may hold what another server, or a database that was restored, refers to
    ownWrittenBefore: () => [],
  };
}
