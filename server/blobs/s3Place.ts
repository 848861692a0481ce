import { Readable } from 'node:stream';
import {
  DeleteObjectCommand,
  GetObjectCommand,
  HeadObjectCommand,
  NoSuchKey,
  NotFound,
  PutObjectCommand,
  S3Client,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import type { BytePlace } from './blobStore';

export interface S3Settings {
  readonly bucket: string;
  /** Where it is not the provider's own address. */
  readonly endpoint?: string;
  readonly region: string;
  readonly accessKeyId: string;
  readonly secretAccessKey: string;
}

/** The bytes as objects in S3-compatible storage, each under its SHA-256; its own check sums guard them on the way. */
export function createS3Place({ bucket, endpoint, region, accessKeyId, secretAccessKey }: S3Settings): BytePlace {
  const client = new S3Client({
    region,
    credentials: { accessKeyId, secretAccessKey },
    ...(endpoint === undefined ? {} : { endpoint, forcePathStyle: true }),
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
  });
  const at = (sha256: string) => ({ Bucket: bucket, Key: `${sha256.slice(0, 2)}/${sha256}` });
  return {
    async holds(sha256, bytes) {
      try {
        return (await client.send(new HeadObjectCommand(at(sha256)))).ContentLength === bytes;
      } catch (error) {
        if (error instanceof NotFound) return false;
        throw error;
      }
    },
    async write(sha256, bytes) {
      await client.send(new PutObjectCommand({ ...at(sha256), Body: bytes, ContentLength: bytes.length }));
    },
    async writePieces(sha256, _bytes, pieces) {
      // in parts, each of which is in memory while it goes; the object is there once all of them are
      await new Upload({ client, params: { ...at(sha256), Body: Readable.from(pieces) }, queueSize: 1 }).done();
    },
    async *read(sha256) {
      const found = await client.send(new GetObjectCommand(at(sha256))).catch((error: unknown) => {
        if (error instanceof NoSuchKey) return null;
        throw error;
      });
      if (found !== null) yield* found.Body as Readable as AsyncIterable<Uint8Array>;
    },
    async remove(sha256) {
      await client.send(new DeleteObjectCommand(at(sha256)));
    },
    // the bucket may hold what another server, or a database that was restored, refers to
    ownWrittenBefore: () => [],
  };
}
