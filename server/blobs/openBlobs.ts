import { setting } from '../../platform/node/setting';
import type { OpenData } from '../openData';
import { createListedBlobs, type BlobStore } from './blobStore';
import { createInlineBytesWork, type BytesWork } from './bytesWork';
import { createS3Place } from './s3Place';
import { createSqlitePlace } from './sqlitePlace';

/** Where bytes are kept: in SQLite, or in a bucket where BLOB_BUCKET names one. */
export function openBlobs({ db, bytesFile }: OpenData, work: BytesWork = createInlineBytesWork(bytesFile)): BlobStore {
  const bucket = setting('BLOB_BUCKET');
  if (bucket === undefined) return createListedBlobs(db, createSqlitePlace(bytesFile, work));
  const needed = (name: string): string => {
    const value = setting(name);
    if (value === undefined) throw new Error(`BLOB_BUCKET is set, so ${name} must be set too.`);
    return value;
  };
  const endpoint = setting('S3_ENDPOINT');
  return createListedBlobs(db, createS3Place({ bucket, region: setting('S3_REGION') ?? 'us-east-1', accessKeyId: needed('S3_ACCESS_KEY_ID'), secretAccessKey: needed('S3_SECRET_ACCESS_KEY'), ...(endpoint === undefined ? {} : { endpoint }) }));
}
